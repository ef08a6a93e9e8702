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

  /** Lengths: how many units, how much of one, or how many heads to either side; to the hundredth. */
  const number = (name) => Number(dial.dataset[name] || 0);
  const stick = {
    value: Math.max(number("least"), Math.min(number("most"), 1)),
    least: number("least"),
    most: number("most"),
    step: (fine) => (fine ? 0.01 : 0.05),
    at: (x) => number("origin") + (x * 390 - number("left")) / number("unit"),
    show(v) {
      hand.setAttribute("transform", `translate(${number("left") + (v - number("origin")) * number("unit")} 0)`);
      const size = Math.abs(v).toFixed(2);
      const words = dial.dataset.of === "heads" ? (size === "0.00" ? "under it" : `${size} heads ${v > 0 ? "right" : "left"}`) : number("most") <= 1 ? `${size} of it` : `${size} of them`;
      return { sent: v.toFixed(2), words, now: v.toFixed(2) };
    },
  };
  if (dial.dataset.of === "heads") stick.value = 0;

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

// A drill that is answered by a line: one stroke on the picture, or places set by keys. What was drawn is shown once more beside the
// true line; it is kept in this browser only for that.
(() => {
  const NS = "http://www.w3.org/2000/svg";
  const line = (svg) => {
    const p = document.createElementNS(NS, "polyline");
    p.setAttribute("class", "drill-drawn");
    svg.append(p);
    return p;
  };
  const shown = document.querySelector("[data-drawn-for]");
  if (shown) {
    const kept = sessionStorage.getItem(`line:${shown.dataset.drawnFor}`);
    if (kept) line(shown.querySelector("svg")).setAttribute("points", kept);
    return;
  }
  const plate = document.querySelector("[data-draw]");
  if (!plate?.dataset.draw) return;
  const svg = plate.querySelector("svg"), field = document.querySelector("[data-path]"), say = document.querySelector("[data-say]"), undo = document.querySelector("[data-undo]");
  const drawn = line(svg), cursor = document.createElementNS(NS, "circle");
  cursor.setAttribute("class", "drill-cursor");
  cursor.setAttribute("r", "4");
  svg.append(cursor);
  svg.setAttribute("tabindex", "0");
  svg.setAttribute("role", "application");
  svg.setAttribute("aria-label", "The figure: draw the line, or move by arrows and set places by space");
  let places = [], drawing = false, byKeys = false;
  const box = svg.viewBox.baseVal, at = { x: box.width / 2, y: box.height / 12 };

  function show() {
    const text = places.map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`).join(" ");
    drawn.setAttribute("points", text);
    field.value = text;
    say.disabled = places.length < 2;
    say.textContent = places.length < 2 ? "Draw the line" : "Say it";
    undo.disabled = places.length === 0;
    cursor.setAttribute("cx", at.x);
    cursor.setAttribute("cy", at.y);
    cursor.toggleAttribute("hidden", !byKeys);
    if (places.length > 1) sessionStorage.setItem(`line:${plate.dataset.draw}`, text);
  }
  function point(e) {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return { x: p.x, y: p.y };
  }
  svg.addEventListener("pointerdown", (e) => {
    if (e.button > 0) return;
    places = [point(e)];
    [drawing, byKeys] = [true, false];
    svg.setPointerCapture(e.pointerId);
    e.preventDefault();
    show();
  });
  svg.addEventListener("pointermove", (e) => {
    if (!drawing || places.length >= 390) return;
    const p = point(e), last = places[places.length - 1];
    if (Math.hypot(p.x - last.x, p.y - last.y) >= 1.5) { places.push(p); show(); }
  });
  for (const end of ["pointerup", "pointercancel"]) svg.addEventListener(end, () => { drawing = false; show(); });
  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select")) return;
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (step) {
      byKeys = true;
      at.x = Math.max(0, Math.min(box.width, at.x + step[0] * (e.shiftKey ? 1 : 6)));
      at.y = Math.max(0, Math.min(box.height, at.y + step[1] * (e.shiftKey ? 1 : 6)));
    } else if (e.key === " " && !e.target.closest("button, a")) places.push({ ...at });
    else if (e.key === "z") places.pop();
    else if (e.key === "Enter" && !e.target.closest("button, a")) { if (!say.disabled) say.click(); return; }
    else return;
    e.preventDefault();
    show();
  });
  undo.addEventListener("click", () => { places = byKeys ? places.slice(0, -1) : []; show(); });
  show();
})();
