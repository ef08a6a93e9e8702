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
    value: number("start"),
    least: number("least"),
    most: number("most"),
    step: (fine) => (dial.dataset.of === "values" ? (fine ? 0.1 : 0.5) : fine ? 0.01 : 0.05),
    at: (x) => number("origin") + (x * 390 - number("left")) / number("unit"),
    show(v) {
      hand.setAttribute("transform", `translate(${number("left") + (v - number("origin")) * number("unit")} 0)`);
      return { sent: v.toFixed(2), words: counted(v), now: v.toFixed(2) };
    },
  };
  /** A length as it is said, by what it is counted in. */
  function counted(v) {
    const size = Math.abs(v);
    if (dial.dataset.of === "values") {
      if (number("least") > 0) return `value ${size.toFixed(1)}`;
      if (size < 0.05) return "alike";
      const said = size.toFixed(1).replace(".0", "");
      return `${said} ${said === "1" ? "value" : "values"} ${v > 0 ? "lighter" : "darker"}`;
    }
    if (dial.dataset.of === "heads") return size < 0.005 ? "under it" : `${size.toFixed(2)} heads ${v > 0 ? "right" : "left"}`;
    return `${size.toFixed(2)} of ${number("most") < 2 ? "it" : "them"}`;
  }

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
  dial.addEventListener("pointermove", (e) => {
    if (dial.hasPointerCapture(e.pointerId)) follow(e);
  });
  document.addEventListener("keydown", (e) => {
    if (e.target.closest("input, textarea, select") || e.ctrlKey || e.metaKey || e.altKey) return;
    const step = kind.step(e.shiftKey);
    if (e.key === "ArrowLeft" || e.key === "ArrowDown") {
      remember();
      turn(kind.value - step);
    } else if (e.key === "ArrowRight" || e.key === "ArrowUp") {
      remember();
      turn(kind.value + step);
    } else if (e.key === "z") undo.click();
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
    for (const stroke of kept ? kept.split(";") : []) line(shown.querySelector("svg")).setAttribute("points", stroke);
    return;
  }
  const plate = document.querySelector("[data-draw]");
  if (!plate?.dataset.draw) return;
  const svg = plate.querySelector("svg"),
    field = document.querySelector("[data-path]"),
    say = document.querySelector("[data-say]"),
    undo = document.querySelector("[data-undo]");
  const wanted = plate.dataset.strokes.split("|");
  const drawn = wanted.map(() => line(svg)),
    cursor = document.createElementNS(NS, "circle");
  cursor.setAttribute("class", "drill-cursor");
  cursor.setAttribute("r", "4");
  svg.append(cursor);
  svg.setAttribute("tabindex", "0");
  svg.setAttribute("role", "application");
  svg.setAttribute("aria-label", "The figure: draw " + wanted.join(", then ") + "; or move by arrows and set places by space");
  let strokes = [[]],
    drawing = false,
    byKeys = false;
  const box = svg.viewBox.baseVal,
    at = { x: box.width / 2, y: box.height / 12 };
  const places = () => strokes[strokes.length - 1];
  const most = Math.floor(390 / wanted.length);

  function show() {
    const done = strokes.filter((s) => s.length > 1);
    const text = done.map((s) => s.map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`).join(" ")).join(";");
    drawn.forEach((d, n) => d.setAttribute("points", (strokes[n] || []).map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`).join(" ")));
    field.value = text;
    say.disabled = done.length < wanted.length;
    say.textContent = say.disabled ? `Draw ${wanted[Math.min(done.length, wanted.length - 1)]}` : "Say it";
    undo.disabled = strokes[0].length === 0;
    cursor.setAttribute("cx", at.x);
    cursor.setAttribute("cy", at.y);
    cursor.toggleAttribute("hidden", !byKeys);
    if (!say.disabled) sessionStorage.setItem(`line:${plate.dataset.draw}`, text);
  }
  function point(e) {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return { x: p.x, y: p.y };
  }

  /** The next stroke; after the last one is whole, the first again. */
  function begin() {
    if (places().length < 2) strokes[strokes.length - 1] = [];
    else if (strokes.length < wanted.length) strokes.push([]);
    else strokes = [[]];
  }
  svg.addEventListener("pointerdown", (e) => {
    if (e.button > 0) return;
    begin();
    places().push(point(e));
    [drawing, byKeys] = [true, false];
    svg.setPointerCapture(e.pointerId);
    e.preventDefault();
    show();
  });
  svg.addEventListener("pointermove", (e) => {
    if (!drawing || places().length >= most) return;
    const p = point(e),
      last = places()[places().length - 1];
    if (Math.hypot(p.x - last.x, p.y - last.y) >= 1.5) {
      places().push(p);
      show();
    }
  });
  for (const end of ["pointerup", "pointercancel"])
    svg.addEventListener(end, () => {
      drawing = false;
      show();
    });

  /** By keys the last place goes, with the pen the last stroke. */
  function back() {
    if (byKeys && places().length > 0) places().pop();
    else strokes[strokes.length - 1] = [];
    if (places().length === 0 && strokes.length > 1) strokes.pop();
  }
  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select")) return;
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (step) {
      byKeys = true;
      at.x = Math.max(0, Math.min(box.width, at.x + step[0] * (e.shiftKey ? 1 : 6)));
      at.y = Math.max(0, Math.min(box.height, at.y + step[1] * (e.shiftKey ? 1 : 6)));
    } else if (e.key === " " && !e.target.closest("button, a")) {
      byKeys = true;
      if (places().length < most) places().push({ ...at });
    } else if (e.key === "n" && places().length > 1 && strokes.length < wanted.length) begin();
    else if (e.key === "z") back();
    else if (e.key === "Enter" && !e.target.closest("button, a")) {
      if (!say.disabled) say.click();
      return;
    } else return;
    e.preventDefault();
    show();
  });
  undo.addEventListener("click", () => {
    if (byKeys) back();
    else {
      strokes = strokes.slice(0, -1);
      if (strokes.length === 0) strokes = [[]];
    }
    show();
  });
  show();
})();

// A drill that is answered by one place: tapped, or found by arrows. Where it was said is shown once more beside the true place; it is
// kept in this browser only for that.
(() => {
  const plate = document.querySelector("[data-place]");
  if (!plate?.dataset.place) return;
  const svg = plate.querySelector("svg"),
    field = document.querySelector("[data-place-at]"),
    say = document.querySelector("[data-say]"),
    kept = `place:${plate.dataset.place}`,
    box = svg.viewBox.baseVal;
  const cross = document.createElementNS("http://www.w3.org/2000/svg", "path");
  cross.setAttribute("class", "drill-place");
  cross.setAttribute("d", "M-9 0H9M0-9V9");
  svg.append(cross);
  let at = { x: box.width / 2, y: box.height / 2 };
  const show = () => cross.setAttribute("transform", `translate(${at.x} ${at.y})`);
  if (!field) {
    const said = sessionStorage.getItem(kept)?.split(",").map(Number);
    cross.toggleAttribute("hidden", !said);
    if (said) at = { x: said[0], y: said[1] };
    show();
    return;
  }
  cross.toggleAttribute("hidden", true);
  svg.setAttribute("tabindex", "0");
  svg.setAttribute("role", "application");
  function put(x, y) {
    at = { x: Math.max(0, Math.min(box.width, x)), y: Math.max(0, Math.min(box.height, y)) };
    cross.toggleAttribute("hidden", false);
    field.value = `${at.x.toFixed(1)},${at.y.toFixed(1)}`;
    sessionStorage.setItem(kept, field.value);
    say.disabled = false;
    show();
  }
  svg.addEventListener("pointerdown", (e) => {
    if (e.button > 0) return;
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    put(p.x, p.y);
    svg.focus({ preventScroll: true });
    e.preventDefault();
  });
  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select")) return;
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (step) put(at.x + step[0] * (e.shiftKey ? 1 : 8), at.y + step[1] * (e.shiftKey ? 1 : 8));
    else if (e.key === "Enter" && !e.target.closest("button, a") && !say.disabled) say.click();
    else return;
    e.preventDefault();
  });
})();
