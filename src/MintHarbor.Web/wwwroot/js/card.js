// The pose card's large keys: a reading is chosen with the thumb, the digits go into it, "next" moves on.
"use strict";

(() => {
  const form = document.querySelector("[data-card]");
  if (!form) return;
  const inputs = [...form.querySelectorAll("input.value")];
  let current = inputs.find((i) => i.value === "") || inputs[0];

  function choose(input, focus) {
    current = input;
    for (const i of inputs) i.closest(".reading").classList.toggle("on", i === input);
    if (focus) input.closest(".reading").scrollIntoView({ block: "nearest" });
  }

  for (const input of inputs) input.addEventListener("focus", () => choose(input, false));
  for (const b of form.querySelectorAll("[data-reading]"))
    b.addEventListener("click", () => choose(form.elements[b.dataset.reading], true));
  form.addEventListener("click", (e) => {
    const key = e.target.closest("[data-digit]")?.dataset.digit;
    if (!key) return;
    if (key === "next") return choose(inputs[(inputs.indexOf(current) + 1) % inputs.length], true);
    if (key === "back") current.value = current.value.slice(0, -1);
    else if (key === "−") current.value = current.value.startsWith("-") ? current.value.slice(1) : `-${current.value}`;
    else if (!(key === "." && current.value.includes(".")) && current.value.length < 6) current.value += key;
  });
  choose(current, false);
})();
