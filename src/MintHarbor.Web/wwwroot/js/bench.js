// The bench under the hand: landmarks are placed by click, moved by dragging and keys, and judged on the server after each
// move. The page's fragment comes back whole; what is chosen and how the sheet is turned is kept here.
"use strict";

(() => {
  const look = { mirrored: false, turned: false, "no-ladder": false, plumb: false, anatomy: false };
  let chosen = null;
  // Chosen by a person, not by what comes next: it stays when the bench is drawn anew.
  let picked = false;
  let spotFor = null;
  let drag = null;

  const board = () => document.querySelector("[data-board]");
  const svg = () => board()?.querySelector("svg.over");
  const order = () => (board()?.dataset.order || "").split(" ").filter(Boolean);
  const marks = () => [...(svg()?.querySelectorAll(".landmark") || [])];
  const has = (id) => marks().some((m) => m.dataset.id === id);
  const markOf = (id) => marks().find((m) => m.dataset.id === id);
  const onlyProposed = (id) => markOf(id)?.dataset.by === "ink";
  const nameOf = (id) => JSON.parse(board().dataset.names)[id] || id;

  function point(e) {
    const s = svg();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(s.getScreenCTM().inverse());
    return { x: p.x, y: p.y };
  }

  function say() {
    const el = document.querySelector("[data-placing]");
    if (!el) return;
    el.textContent = "";
    const b = document.createElement("b");
    if (spotFor) {
      b.textContent = "Click the place";
      el.append(b, " that the remark speaks of.");
      return;
    }
    const says = board().dataset.says || "";
    if (!chosen) {
      el.textContent = says || "Choose a mark to move it.";
      return;
    }
    b.textContent = nameOf(chosen);
    if (!has(chosen)) {
      el.append("Next: ", b, ": click it on the sheet.");
      return;
    }
    if (onlyProposed(chosen)) {
      const right = Object.assign(document.createElement("button"), { className: "quiet", textContent: "it lies right" });
      right.dataset.confirm = "";
      el.append(chosen === board().dataset.ask ? "Look at: " : "Proposed: ", b, ". Drag it right, or ", right, ".");
      return;
    }
    el.append("Moving ", b, ": drag it, or the arrow keys; shift for a fifth of a millimetre.");
  }

  /** What is to be looked at: the mark that is asked for; without marks from the ink the first that is missing. */
  function first() {
    const { ask, fitted } = board().dataset;
    // While the ink is read nothing is asked of the hand.
    if (document.querySelector("[data-reading]")) return null;
    return ask || (fitted ? null : order().find((id) => !has(id))) || null;
  }

  function refresh() {
    if (!board()) return;
    for (const [k, on] of Object.entries(look)) if (k !== "plumb") board().classList.toggle(k, on);
    const line = svg().querySelector(".plumbline");
    if (line) line.toggleAttribute("hidden", !look.plumb);
    document.querySelector('[data-look="anatomy"]')?.setAttribute("aria-pressed", look.anatomy);
    if (!picked || (!order().includes(chosen) && !has(chosen))) [chosen, picked] = [first(), false];
    for (const m of marks()) m.classList.toggle("chosen", m.dataset.id === chosen);
    say();
    reference();
    reading();
  }

  // The reference view: over the sheet, blinking, beside it, off; and how strong. Kept while the page stands.
  const modes = ["over", "blink", "beside", "off"];
  let mode = "over",
    strength = 70;
  function reference() {
    const g = svg()?.querySelector("[data-reference]");
    if (g) {
      g.classList.toggle("blink", mode === "blink");
      g.toggleAttribute("hidden", mode === "beside" || mode === "off");
      g.setAttribute("opacity", strength / 100);
    }
    for (const b of document.querySelectorAll("[data-reference-mode]")) b.setAttribute("aria-pressed", b.dataset.referenceMode === mode);
    document.querySelector("[data-beside]")?.toggleAttribute("hidden", mode !== "beside");
    const slider = document.querySelector("[data-strength]");
    if (slider) {
      slider.value = strength;
      slider.nextElementSibling.value = `${strength} %`;
    }
  }
  document.addEventListener("input", (e) => {
    if (e.target.matches("[data-strength]")) {
      strength = Number(e.target.value);
      reference();
    }
  });
  document.addEventListener("click", (e) => {
    const to = e.target.closest("[data-reference-mode]")?.dataset.referenceMode;
    if (to) {
      mode = to;
      reference();
    }
    if (e.target.closest("[data-reference-next]")) {
      mode = modes[(modes.indexOf(mode) + 1) % modes.length];
      reference();
    }
  });
  document.addEventListener("keydown", (e) => {
    if (!"[]".includes(e.key) || e.target.closest("input, textarea, select") || !document.querySelector("[data-strength]")) return;
    strength = Math.max(0, Math.min(100, strength + (e.key === "]" ? 10 : -10)));
    reference();
  });

  // One after the other: each answer brings a new sheet, and an answer to the one before it would find that one gone.
  let sent = Promise.resolve();
  function send(path, values, focus) {
    sent = sent
      .then(() => window.htmx.ajax("POST", board().dataset.path + path, { target: "#sheet", swap: "outerHTML", values }))
      .then(() => {
        if (focus) svg()?.querySelector(`[data-id="${focus}"]`)?.focus({ preventScroll: true });
      })
      // A line that is down has its own word, and keeps what could not be sent.
      .catch(() => {});
  }

  /** Where the page saw a landmark when the server last drew it, so that somebody else's move is noticed. */
  const seen = (id) => marks().find((m) => m.dataset.id === id)?.dataset.at || "";

  function place(id, x, y, advance) {
    const k = Number(svg().dataset.scale);
    const was = seen(id);
    if (advance) picked = false;
    send("/place", { id, x: (x / k).toFixed(2), y: (y / k).toFixed(2), was }, advance ? null : id);
  }

  /** Where a mark stands on the page, the board's units. */
  function standsAt(mark) {
    const [, x, y] = mark
      .getAttribute("transform")
      .match(/translate\(([-\d.]+)[ ,]([-\d.]+)\)/)
      .map(Number);
    return { x, y };
  }

  /** What is asked for lies right as it is: placed there, and the next is asked for. */
  function confirm() {
    const mark = chosen && markOf(chosen);
    if (!mark || !board()?.dataset.editable) return;
    const { x, y } = standsAt(mark);
    place(chosen, x, y, true);
  }

  /** Lines that end at a mark go along while it is moved; what they say is judged when it rests. */
  function carry(id) {
    for (const edge of svg().querySelectorAll(`[data-ends~="${id}"]`)) {
      const ends = edge.dataset.ends.split(" ").map((e) => standsAt(markOf(e)));
      const grow = Number(edge.dataset.grow);
      const middle = { x: (ends[0].x + ends[1].x) / 2, y: (ends[0].y + ends[1].y) / 2 };
      const [a, b] = ends.map((p) => ({ x: middle.x + (p.x - middle.x) * grow, y: middle.y + (p.y - middle.y) * grow }));
      for (const line of edge.children)
        for (const [name, value] of [
          ["x1", a.x],
          ["y1", a.y],
          ["x2", b.x],
          ["y2", b.y],
        ])
          line.setAttribute(name, value);
    }
  }

  // The bench isn't taken away from under a hand that is at work on it, nor by what was asked before that hand's own change.
  let writing = 0,
    pressed = false;
  const busy = () => drag || pressed || writing > 0 || document.activeElement?.matches("textarea, input");
  const reads = (e) => e.detail.requestConfig?.path.endsWith("/fitted");
  const writes = (e) => e.detail.requestConfig?.verb === "post";
  document.addEventListener("htmx:beforeRequest", (e) => {
    if (reads(e) && busy()) e.preventDefault();
    if (writes(e)) writing++;
  });
  document.addEventListener("htmx:afterRequest", (e) => {
    if (writes(e)) writing--;
  });
  for (const [name, down] of Object.entries({ pointerdown: true, pointerup: false, pointercancel: false }))
    document.addEventListener(name, () => (pressed = down), { capture: true });

  document.addEventListener("htmx:beforeSwap", (e) => {
    if (reads(e) && busy()) e.detail.shouldSwap = false;
    // What is taken off the page is told of node by node; the drawing's thousand nodes have nobody who listens, and the hand waits.
    if (e.detail.target?.id === "sheet" && e.detail.shouldSwap) svg()?.replaceChildren();
  });

  document.addEventListener("pointerdown", (e) => {
    const s = e.target.closest("svg.over");
    if (!s || !board()?.dataset.editable || e.button > 0 || e.target.closest(".check-pin")) return;
    const mark = e.target.closest(".landmark");
    if (mark && !spotFor) {
      [chosen, picked] = [mark.dataset.id, true];
      drag = { mark, moved: false, start: point(e) };
      mark.setPointerCapture?.(e.pointerId);
      refresh();
      e.preventDefault();
      mark.focus({ preventScroll: true });
      return;
    }
    const p = point(e);
    if (spotFor) {
      const k = Number(s.dataset.scale);
      send("/spot", { remark: spotFor, x: (p.x / k).toFixed(1), y: (p.y / k).toFixed(1) });
      spotFor = null;
      return;
    }
    if (chosen) place(chosen, p.x, p.y, !has(chosen));
  });
  document.addEventListener("pointermove", (e) => {
    if (!drag) return;
    const p = point(e);
    if (!drag.moved && Math.hypot(p.x - drag.start.x, p.y - drag.start.y) < 1.5) return;
    drag.moved = true;
    drag.mark.setAttribute("transform", `translate(${p.x} ${p.y})`);
    carry(drag.mark.dataset.id);
    loupe(e, p);
  });
  document.addEventListener("pointerup", (e) => {
    if (!drag) return;
    const d = drag;
    drag = null;
    document.querySelector(".loupe")?.remove();
    if (d.moved) {
      const p = point(e);
      place(d.mark.dataset.id, p.x, p.y, false);
    }
  });

  /** Three times as large, above the finger. */
  function loupe(e, p) {
    if (e.pointerType === "mouse") return;
    let l = document.querySelector(".loupe");
    if (!l) {
      l = document.createElement("div");
      l.className = "loupe";
      l.append(document.createElement("canvas"));
      board().append(l);
    }
    const r = board().getBoundingClientRect();
    l.style.left = `${e.clientX - r.left - 66}px`;
    l.style.top = `${e.clientY - r.top - 170}px`;
    const image = (loupe.image ||= Object.assign(new Image(), { src: svg().querySelector("image").getAttribute("href") }));
    const c = l.firstChild,
      g = c.getContext("2d");
    c.width = c.height = 264;
    const w = 450,
      k = image.naturalWidth / w;
    g.drawImage(image, (p.x - 22) * k, (p.y - 22) * k, 44 * k, 44 * k, 0, 0, 264, 264);
    g.strokeStyle = "#2F5DA8";
    g.strokeRect(131.5, 112, 1, 40);
    g.strokeRect(112, 131.5, 40, 1);
  }

  document.addEventListener("click", (e) => {
    const spot = e.target.closest("[data-spot]");
    if (spot) {
      spotFor = spot.dataset.spot;
      say();
      svg()?.scrollIntoView({ block: "nearest" });
    }
    const act = e.target.closest("[data-look]")?.dataset.look;
    if (act) toggle(act);
    if (e.target.closest("[data-next-landmark]")) next();
    if (e.target.closest("[data-confirm]")) confirm();
  });

  // How the ink was read lies over the sheet when it is asked for, one way at a time.
  let read = "";
  document.addEventListener("click", (e) => {
    const which = e.target.closest("[data-read]")?.dataset.read;
    if (which === undefined) return;
    read = read === which ? "" : which;
    reading();
  });
  function reading() {
    for (const g of svg()?.querySelectorAll("[data-read-over]") ?? []) {
      if (g.dataset.readOver !== read) g.replaceChildren();
      else if (!g.firstChild) {
        const image = document.createElementNS("http://www.w3.org/2000/svg", "image");
        for (const [name, value] of Object.entries({
          href: g.dataset.href,
          width: 450,
          height: g.dataset.high,
          preserveAspectRatio: "none",
        }))
          image.setAttribute(name, value);
        g.append(image);
      }
    }
    for (const b of document.querySelectorAll("[data-read]")) b.setAttribute("aria-pressed", b.dataset.read === read);
  }

  // A check of anatomy: its card opens beside the place that is drawn, from the pin or from the list.
  const pinOf = (key) => svg()?.querySelector(`[data-pin="${key}"]`);
  function openCheck(key) {
    const card = document.querySelector(`[data-check-pop="${key}"]`);
    if (!card) return;
    if (!look.anatomy) toggle("anatomy");
    card.showPopover();
    const { width, height } = card.getBoundingClientRect();
    const pin = pinOf(key).getBoundingClientRect();
    const gap = 14;
    // Beside the pin, on the side where there is room; on a phone over the lower edge.
    const right = pin.right + gap + width <= innerWidth ? pin.right + gap : pin.left - gap - width;
    card.style.left = `${Math.max(8, Math.min(right, innerWidth - width - 8))}px`;
    card.style.top = `${Math.max(8, Math.min(pin.top - height / 3, innerHeight - height - 8))}px`;
  }
  document.addEventListener("click", (e) => {
    const pin = e.target.closest("[data-pin]");
    if (pin) openCheck(pin.dataset.pin);
  });
  document.addEventListener("keydown", (e) => {
    const pin = e.target.closest?.(".check-pin");
    if (!pin || (e.key !== "Enter" && e.key !== " ")) return;
    e.preventDefault();
    openCheck(pin.dataset.pin);
  });

  function toggle(name) {
    look[name] = !look[name];
    refresh();
  }

  function next() {
    const ids = order();
    // What nobody has placed comes first: of the marks that are missing, then of those that are only proposed.
    const missing = board().dataset.fitted ? [] : ids.filter((id) => !has(id));
    const proposed = ids.filter(onlyProposed);
    const pool = missing.length ? missing : proposed.length ? proposed : ids.filter(has);
    if (!pool.length) return;
    [chosen, picked] = [pool[(pool.indexOf(chosen) + 1) % pool.length], true];
    refresh();
    svg().querySelector(`[data-id="${chosen}"]`)?.focus({ preventScroll: true });
  }

  let moveTimer = 0;
  document.addEventListener("keydown", (e) => {
    if (!board()?.dataset.editable || e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select")) return;
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const mark = marks().find((m) => m.dataset.id === chosen);
    if (step && mark && e.target.closest(".landmark")) {
      e.preventDefault();
      const k = Number(svg().dataset.scale) * (e.shiftKey ? 0.2 : 1);
      const { x, y } = standsAt(mark);
      const to = { x: x + step[0] * k, y: y + step[1] * k };
      mark.setAttribute("transform", `translate(${to.x} ${to.y})`);
      carry(mark.dataset.id);
      clearTimeout(moveTimer);
      moveTimer = setTimeout(() => place(mark.dataset.id, to.x, to.y, false), 250);
      return;
    }
    if (e.key === "Delete" && mark) {
      e.preventDefault();
      send("/remove", { id: chosen, was: seen(chosen) });
    } else if (e.key === "Escape") {
      spotFor = null;
      say();
    }
  });
  document.addEventListener("focusin", (e) => {
    const mark = e.target.closest?.(".landmark");
    if (mark && mark.dataset.id !== chosen) {
      [chosen, picked] = [mark.dataset.id, true];
      refresh();
    }
  });
  document.addEventListener("htmx:afterSettle", refresh);
  document.addEventListener("DOMContentLoaded", refresh);
})();
