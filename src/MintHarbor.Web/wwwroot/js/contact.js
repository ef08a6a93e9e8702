// The contact sheet by the keys alone: arrows go from sheet to sheet, two letters stamp a fault, space picks a sheet for the next stamp,
// backspace takes the last one back, enter releases.
(() => {
  const root = () => document.querySelector("[data-contact]");
  const picked = new Set();
  const done = [];
  let first = "";

  const token = () => root().querySelector("[name=__RequestVerificationToken]")?.value;

  // One after the other: what is pressed while an answer is on its way follows it, and means the sheet that stands then.
  let sent = Promise.resolve();
  function next(act) {
    sent = sent.catch(() => {}).then(act);
    return sent;
  }
  function post(handler, values) {
    return next(() =>
      htmx.ajax("POST", `${root().dataset.contact}/${handler}`, {
        target: "#sheet",
        swap: "outerHTML",
        values: { ...values, sheet: root().dataset.sheet, __RequestVerificationToken: token() },
      }),
    );
  }

  function codes() {
    const list = root().querySelector("[data-codes]");
    if (!list) return;
    const library = JSON.parse(root().dataset.library);
    list.replaceChildren(
      ...library
        .filter(([code]) => first !== "" && code.startsWith(first))
        .map(([code, name]) => {
          const li = document.createElement("li");
          const key = document.createElement("kbd");
          key.textContent = code;
          li.append(key, ` ${name}`);
          return li;
        }),
    );
  }

  function picks() {
    const says = root().querySelector("[data-picks]");
    if (says) says.textContent = picked.size ? `${picked.size} picked: the next stamp goes on all of them` : "";
    const field = root().querySelector("[data-picked]");
    if (field) field.value = [...picked].join(" ");
    for (const plate of root().querySelectorAll("[data-plate]")) plate.classList.toggle("picked", picked.has(plate.dataset.plate));
  }

  function go(which) {
    next(() => {
      const id = root()?.dataset[which];
      return id && htmx.ajax("GET", `${root().dataset.contact}?sheet=${id}`, { target: "#sheet", swap: "outerHTML" });
    });
  }

  // A critique that is out can't be called back: a second press of the same key means the same sheet.
  let releasing = false;
  function release() {
    if (releasing) return;
    releasing = true;
    post("release", {}).finally(() => {
      releasing = false;
      show();
    });
  }

  async function stamp(code) {
    await post("stamp", { code, picked: [...picked].join(" ") });
    if (root()?.dataset.stamped) done.push(root().dataset.stamped);
    picked.clear();
    show();
  }

  function show() {
    if (!root()) return;
    codes();
    picks();
  }

  document.addEventListener("keydown", (e) => {
    const here = root();
    if (!here?.dataset.sheet || e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select, button, summary")) return;
    const press = {
      ArrowRight: () => go("next"),
      ArrowLeft: () => go("before"),
      " ": () => {
        const id = here.dataset.sheet;
        if (!picked.delete(id)) picked.add(id);
        picks();
      },
      Backspace: () => {
        if (first) first = "";
        else if (done.length) post("undo", { stamped: done.pop() }).then(show);
        codes();
      },
      Escape: () => {
        first = "";
        picked.clear();
        show();
      },
      Enter: () => !e.repeat && release(),
    }[e.key];
    if (press) {
      if (e.key === "Enter" && e.target.closest("a")) return;
      e.preventDefault();
      press();
      return;
    }
    if (!/^[a-z]$/.test(e.key)) return;
    e.preventDefault();
    if (!first) first = e.key;
    else {
      const code = first + e.key;
      first = "";
      stamp(code);
    }
    codes();
  });

  document.addEventListener("htmx:afterSettle", show);
  show();
})();
