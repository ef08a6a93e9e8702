// The drill player's dials: a fan for directions, a measuring stick for ratios. Each follows finger, pointer and keys and
// writes its answer into the form; the player below them is the same.
"use strict";

(() => {
  const dial = document.querySelector("[data-fan], [data-stick]");
  if (!dial) return;
  const hand = dial.querySelector("[data-hand]");
  const field = document.querySelector("[data-value]");
  const say = document.querySelector("[data-say]");
  const undo = document.querySelector("[data-undo]");
  const before = [];

  const hour = (h) => {
    const q = ((Math.round(h * 4) % 48) + 48) % 48;
    const whole = Math.floor(q / 4) || 12;
    return whole + ["", "¼", "½", "¾"][q % 4];
  };

  /** Directions: −90 to 90, clockwise of upright, shown; 0 to 180 sent. */
  const fan = {
    value: 0,
    least: -90,
    most: 90,
    step: (fine) => (fine ? 1 : 5),
    at(x, y) {
      const [dx, dy] = [x * 390 - 195, 186 - y * 206];
      return Math.hypot(dx, dy) < 8 ? null : (Math.atan2(dx, Math.max(0, dy)) * 180) / Math.PI;
    },
    show(v) {
      hand.setAttribute("transform", `translate(195 186) rotate(${v})`);
      const edge = v < 0 ? v + 180 : v;
      const first = v < 0 ? edge / 30 + 6 : edge / 30;
      return { sent: edge.toFixed(1), words: `${hour(first)} or ${hour(first + 6)}`, now: v.toFixed(0) };
    },
  };

  /** Ratios: how many units, to the hundredth. */
  const stick = {
    value: 1,
    least: 0.2,
    most: 4.5,
    step: (fine) => (fine ? 0.01 : 0.05),
    at: (x) => (x * 390 - dial.dataset.left) / dial.dataset.unit,
    show(v) {
      hand.setAttribute("transform", `translate(${Number(dial.dataset.left) + v * dial.dataset.unit} 0)`);
      return { sent: v.toFixed(2), words: `${v.toFixed(2)} of them`, now: v.toFixed(2) };
    },
  };

  const kind = dial.dataset.stick !== undefined ? stick : fan;

  function turn(to) {
    kind.value = Math.max(kind.least, Math.min(kind.most, to));
    const shown = kind.show(kind.value);
    field.value = shown.sent;
    say.textContent = `Say ${shown.words}`;
    dial.setAttribute("aria-valuenow", shown.now);
    dial.setAttribute("aria-valuetext", shown.words);
  }

  function remember() {
    before.push(kind.value);
    undo.disabled = false;
  }

  function follow(e) {
    const r = dial.getBoundingClientRect();
    const v = kind.at((e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height);
    if (v !== null) turn(v);
  }

  dial.addEventListener("pointerdown", (e) => {
    remember();
    dial.setPointerCapture(e.pointerId);
    follow(e);
    dial.focus();
    e.preventDefault();
  });
  dial.addEventListener("pointermove", (e) => { if (dial.hasPointerCapture(e.pointerId)) follow(e); });
  document.addEventListener("keydown", (e) => {
    if (e.target.closest("input, textarea, select") || e.ctrlKey || e.metaKey || e.altKey) return;
    const step = kind.step(e.shiftKey);
    if (e.key === "ArrowLeft" || e.key === "ArrowDown") { remember(); turn(kind.value - step); }
    else if (e.key === "ArrowRight" || e.key === "ArrowUp") { remember(); turn(kind.value + step); }
    else if (e.key === "z") undo.click();
    else if (e.key === "Enter" && !e.target.closest("button, a")) say.click();
    else return;
    e.preventDefault();
  });
  undo.addEventListener("click", () => {
    if (before.length) turn(before.pop());
    undo.disabled = before.length === 0;
  });
  turn(kind.value);
})();
