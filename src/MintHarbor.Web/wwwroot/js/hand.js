// The field of a drill of the hand: takes strokes of finger, pen or mouse, or places set by keys, with their time and, where the device tells them,
// pressure and tilt. What is drawn is kept in this tab, under its person's number, until the server has it.
"use strict";

(() => {
  const NS = "http://www.w3.org/2000/svg";
  const shown = document.querySelector("[data-hand-shown]");
  if (shown) sessionStorage.removeItem(`hand:${person}:${shown.dataset.handShown}`);
  const root = document.querySelector("[data-hand]");
  if (!root) return;
  const field = root.querySelector(".hand-field"),
    box = field.viewBox.baseVal,
    kept = `hand:${person}:${root.dataset.hand}`,
    { sight } = root.dataset,
    asked = root.dataset.strokes ? root.dataset.strokes.split("|") : [],
    byPressure = root.dataset.pressure === "yes";
  const find = (name) => document.querySelector(`[data-${name}]`);
  const form = find("hand-form"),
    trace = find("trace"),
    say = find("say"),
    undo = find("undo"),
    glance = find("glance"),
    look = find("look");
  const MOST = 12000,
    NEAR = 0.35; // millimetres, and
  const SOON = 120; // milliseconds, within which a place is none of its own

  let strokes = [],
    tool = "finger",
    glances = 0,
    tilts = [],
    penSeen = false,
    drawing = null,
    began = null,
    cursor = null;
  const at = { x: box.width / 2, y: box.height / 2, p: 0.2 };
  const mm = () => (field.getBoundingClientRect().width * 25.4) / 96 / box.width;

  const layer = document.createElementNS(NS, "g");
  layer.setAttribute("class", "hand-ink");
  field.append(layer);
  if (sight !== "seen") layer.setAttribute("visibility", "hidden");

  /** Lines are drawn in pieces, so that a long one costs no more than a short one. */
  const piece = { line: null, points: [] };
  function ink(place, fresh) {
    if (byPressure && !fresh) {
      const l = document.createElementNS(NS, "line");
      const last = piece.points[piece.points.length - 1];
      for (const [k, v] of Object.entries({ x1: last[0], y1: last[1], x2: place[0], y2: place[1] })) l.setAttribute(k, v);
      l.setAttribute("stroke-opacity", Math.max(0.06, place[3]).toFixed(2));
      l.setAttribute("class", "hand-drawn hand-pressed");
      layer.append(l);
      piece.points.push(place);
      return;
    }
    if (fresh || piece.points.length > 150) {
      const last = piece.points[piece.points.length - 1];
      piece.points = fresh ? [] : [last];
      piece.line = document.createElementNS(NS, "polyline");
      piece.line.setAttribute("class", "hand-drawn");
      layer.append(piece.line);
    }
    piece.points.push(place);
    const dot = piece.points.length === 1 ? ` ${place[0]},${place[1] + 0.01}` : "";
    piece.line.setAttribute("points", piece.points.map((p) => `${p[0]},${p[1]}`).join(" ") + dot);
  }
  function redraw() {
    layer.replaceChildren();
    for (const s of strokes) s.forEach((p, n) => ink(p, n === 0));
  }

  function keep() {
    trace.value = JSON.stringify({
      tool,
      mm: Number(mm().toFixed(4)),
      glances,
      tilt: tilts.length ? Math.round(tilts.reduce((a, b) => a + b) / tilts.length) : null,
      strokes: strokes.map((s) => s.flat()),
    });
    try {
      sessionStorage.setItem(
        kept,
        JSON.stringify({ tool, glances, tilts: tilts.slice(-50), strokes, looked: look?.dataset.look === "over" }),
      );
    } catch {
      // A full store only means that reloading loses the drawing.
    }
  }
  function show() {
    const missing = asked.length - strokes.length;
    say.disabled = strokes.length === 0 || missing > 0;
    say.textContent = missing > 0 ? `Draw ${asked[strokes.length]}` : strokes.length === 0 ? "Draw in the field" : "That's it";
    undo.disabled = strokes.length === 0;
  }

  const count = () => strokes.reduce((n, s) => n + s.length, 0);
  function place(e) {
    const r = field.getBoundingClientRect();
    const now = performance.now();
    began ??= now;
    const p = [
      ((e.clientX - r.left) * box.width) / r.width,
      ((e.clientY - r.top) * box.height) / r.height,
      now - began,
      e.pointerType === "pen" ? e.pressure : 0.5,
    ];
    return [Math.round(p[0] * 10) / 10, Math.round(p[1] * 10) / 10, Math.round(p[2]), Math.round(p[3] * 1000) / 1000];
  }
  function add(p) {
    const s = strokes[strokes.length - 1],
      last = s[s.length - 1];
    if (last && Math.hypot(p[0] - last[0], p[1] - last[1]) * mm() < NEAR && p[2] - last[2] < SOON) return;
    if (count() >= MOST) return;
    s.push(p);
    ink(p, s.length === 1);
  }
  function tilted(e) {
    if (e.pointerType !== "pen" || (!e.tiltX && !e.tiltY)) return;
    const t = Math.hypot(Math.tan((e.tiltX * Math.PI) / 180), Math.tan((e.tiltY * Math.PI) / 180));
    tilts.push((Math.atan(t) * 180) / Math.PI);
  }

  field.addEventListener("pointerdown", (e) => {
    if (e.button > 0 || drawing !== null || field.hasAttribute("data-shut")) return;
    // A palm that lies on the screen beside a pen draws nothing.
    if (e.pointerType === "pen") penSeen = true;
    else if (e.pointerType === "touch" && penSeen) return;
    tool = { pen: "pen", touch: "finger" }[e.pointerType] || "mouse";
    cursor?.remove();
    cursor = null;
    drawing = e.pointerId;
    field.setPointerCapture(e.pointerId);
    strokes.push([]);
    add(place(e));
    tilted(e);
    e.preventDefault();
    show();
  });
  field.addEventListener("pointermove", (e) => {
    if (e.pointerId !== drawing) return;
    const all = e.getCoalescedEvents ? e.getCoalescedEvents() : [];
    for (const c of all.length ? all : [e]) add(place(c));
    tilted(e);
  });
  for (const end of ["pointerup", "pointercancel"])
    field.addEventListener(end, (e) => {
      if (e.pointerId !== drawing) return;
      drawing = null;
      keep();
      show();
    });

  undo.addEventListener("click", () => {
    strokes = sight === "seen" ? strokes.slice(0, -1) : [];
    if (strokes.length === 0) [began, glances] = [null, 0];
    redraw();
    keep();
    show();
  });

  /** A glance: the line is seen as long as the button is held, by finger or key. */
  if (glance) {
    const open = () => {
      if (layer.getAttribute("visibility") === "visible") return;
      layer.setAttribute("visibility", "visible");
      glances++;
      keep();
    };
    const close = () => layer.setAttribute("visibility", "hidden");
    for (const on of ["pointerdown", "keydown"])
      glance.addEventListener(on, (e) => {
        if (e.type === "keydown" && e.key !== " " && e.key !== "Enter") return;
        if (e.type === "keydown") e.stopPropagation();
        open();
        e.preventDefault();
      });
    for (const off of ["pointerup", "pointerleave", "pointercancel", "keyup", "blur"]) glance.addEventListener(off, close);
  }

  /** Looked at for so many seconds, then hidden: once, however often the page is opened. */
  if (look) {
    const subject = root.querySelector(".hand-subject");
    const over = () => {
      look.dataset.look = "over";
      look.hidden = true;
      subject.setAttribute("visibility", "hidden");
      field.removeAttribute("data-shut");
      keep();
    };
    subject.setAttribute("visibility", "hidden");
    field.setAttribute("data-shut", "");
    look.addEventListener("click", () => {
      if (look.dataset.look === "on") return;
      let left = Number(look.dataset.look);
      look.dataset.look = "on";
      subject.setAttribute("visibility", "visible");
      const tell = () => (look.textContent = `${left} s to look`);
      tell();
      // What was begun counts as looked at, should the page be closed now.
      try {
        sessionStorage.setItem(kept, JSON.stringify({ tool, glances, tilts, strokes, looked: true }));
      } catch {
        // As above.
      }
      const clock = setInterval(() => {
        left--;
        if (left > 0) return tell();
        clearInterval(clock);
        over();
      }, 1000);
    });
    root.lookOver = over;
  }

  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select")) return;
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (field.hasAttribute("data-shut")) return;
    if (step && byPressure && step[1] !== 0) at.p = Math.min(1, Math.max(0.02, at.p - step[1] * (e.shiftKey ? 0.02 : 0.1)));
    else if (step) {
      at.x = Math.max(0, Math.min(box.width, at.x + step[0] * (e.shiftKey ? 1 : 6)));
      at.y = Math.max(0, Math.min(box.height, at.y + step[1] * (e.shiftKey ? 1 : 6)));
    } else if (e.key === " " && !e.target.closest("button, a")) {
      const now = performance.now();
      began ??= now;
      if (strokes.length === 0 || root.dataset.next === "yes") strokes.push([]);
      root.dataset.next = "";
      tool = "keys";
      add([Math.round(at.x * 10) / 10, Math.round(at.y * 10) / 10, Math.round(now - began), byPressure ? at.p : 0.5]);
      keep();
      show();
    } else if (e.key === "n") root.dataset.next = "yes";
    else if (e.key === "z") undo.click();
    else if (e.key === "Enter" && !e.target.closest("button, a")) {
      if (!say.disabled) say.click();
      return;
    } else return;
    e.preventDefault();
    if (!cursor) {
      cursor = document.createElementNS(NS, "circle");
      cursor.setAttribute("class", "drill-cursor");
      field.append(cursor);
    }
    cursor.setAttribute("cx", at.x);
    cursor.setAttribute("cy", at.y);
    cursor.setAttribute("r", byPressure ? 2 + 8 * at.p : 4);
  });
  form.addEventListener("submit", keep);

  const before = JSON.parse(sessionStorage.getItem(kept) || "null");
  if (before) {
    ({ tool, glances, tilts, strokes } = before);
    // The clock goes on where it stood: a page closed in between took no time.
    const last = strokes[strokes.length - 1];
    if (last) began = performance.now() - last[last.length - 1][2] - 400;
    redraw();
    if (before.looked) root.lookOver?.();
  }
  keep();
  show();
  root.dataset.ready = "yes";
})();
