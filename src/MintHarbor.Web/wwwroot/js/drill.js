// The fan: half a dial whose hand follows finger, pointer and keys. The answer is a direction in degrees, upright 0.
"use strict";

(() => {
  const fan = document.querySelector("[data-fan]");
  if (!fan) return;
  const hand = fan.querySelector("[data-hand]");
  const field = document.querySelector("input[name=degrees]");
  const say = document.querySelector("[data-say]");
  const undo = document.querySelector("[data-undo]");
  const before = [];
  let degrees = 0;

  const hour = (h) => {
    const q = ((Math.round(h * 4) % 48) + 48) % 48;
    const whole = Math.floor(q / 4) || 12;
    return whole + ["", "¼", "½", "¾"][q % 4];
  };

  /** −90 to 90, clockwise of upright, shown; 0 to 180 sent. */
  function turn(to) {
    degrees = Math.max(-90, Math.min(90, to));
    hand.setAttribute("transform", `translate(195 186) rotate(${degrees})`);
    const edge = degrees < 0 ? degrees + 180 : degrees;
    field.value = edge.toFixed(1);
    const first = degrees < 0 ? edge / 30 + 6 : edge / 30;
    const words = `${hour(first)} or ${hour(first + 6)}`;
    say.textContent = `Say ${words}`;
    fan.setAttribute("aria-valuenow", degrees.toFixed(0));
    fan.setAttribute("aria-valuetext", words);
  }

  function remember() {
    before.push(degrees);
    undo.disabled = false;
  }

  function follow(e) {
    const r = fan.getBoundingClientRect();
    const x = ((e.clientX - r.left) / r.width) * 390 - 195;
    const y = 186 - ((e.clientY - r.top) / r.height) * 206;
    if (Math.hypot(x, y) < 8) return;
    turn((Math.atan2(x, Math.max(0, y)) * 180) / Math.PI);
  }

  fan.addEventListener("pointerdown", (e) => {
    remember();
    fan.setPointerCapture(e.pointerId);
    follow(e);
    fan.focus();
    e.preventDefault();
  });
  fan.addEventListener("pointermove", (e) => { if (fan.hasPointerCapture(e.pointerId)) follow(e); });
  document.addEventListener("keydown", (e) => {
    if (e.target.closest("input, textarea, select") || e.ctrlKey || e.metaKey || e.altKey) return;
    const step = e.shiftKey ? 1 : 5;
    if (e.key === "ArrowLeft" || e.key === "ArrowDown") { remember(); turn(degrees - step); }
    else if (e.key === "ArrowRight" || e.key === "ArrowUp") { remember(); turn(degrees + step); }
    else if (e.key === "z") undo.click();
    else if (e.key === "Enter" && !e.target.closest("button, a")) say.click();
    else return;
    e.preventDefault();
  });
  undo.addEventListener("click", () => {
    if (before.length) turn(before.pop());
    undo.disabled = before.length === 0;
  });
  turn(0);
})();
