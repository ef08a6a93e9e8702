// Areas and edges: a lasso or two clicks are sent as soon as they are whole; what lies over the sheet is dragged, and blinks.
"use strict";

(() => {
  const root = () => document.querySelector("[data-look]");
  const svg = () => root()?.querySelector("svg");
  const tools = () => document.querySelector("[data-look-tools]");
  // Kept while the page stands: the sheet comes anew with each answer.
  const chosen = { kind: "Tone", method: "Hatch", step: "Light", reference: false };
  let mode = "over",
    strength = 60,
    places = [],
    drawing = false,
    typed = null,
    drag = null;

  const isEdge = () => chosen.kind === "Edge" || chosen.kind === "Parallel";
  const field = (name) => document.querySelector(`[data-look-lay] [name=${name}]`);
  const clamp = (v, most) => Math.max(0, Math.min(most, v));
  function at(e) {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg().getScreenCTM().inverse());
    return [clamp(p.x, Number(root().dataset.width)), clamp(p.y, Number(root().dataset.height))];
  }

  function say(words) {
    const el = document.querySelector("[data-look-says]");
    const how = tools()?.querySelector("[name=kind]:checked")?.dataset.how ?? "";
    if (el) el.textContent = words ?? how.charAt(0).toUpperCase() + how.slice(1) + ".";
  }

  function now() {
    const path = svg()?.querySelector("[data-now]");
    if (!path) return;
    path.setAttribute("d", places.length ? `M${places.map((p) => p.join(" ")).join("L")}` : "");
  }

  let sent = Promise.resolve();
  function send() {
    const values = { ...chosen, at: places.map((p) => p.map((v) => v.toFixed(2)).join(",")).join(";") };
    [places, typed] = [[], null];
    say("Reading …");
    sent = sent
      .then(() => htmx.ajax("POST", `${root().dataset.look}/mark`, { target: "#sheet", swap: "outerHTML", values }))
      .then(() => svg()?.focus({ preventScroll: true }))
      .catch(() => {})
      .finally(now);
  }

  function over() {
    const g = svg()?.querySelector("[data-over]");
    if (g) {
      g.setAttribute("opacity", strength / 100);
      g.classList.toggle("blink", mode === "blink");
      g.toggleAttribute("hidden", mode === "off");
    }
    for (const b of document.querySelectorAll("[data-look-mode]")) b.setAttribute("aria-pressed", b.dataset.lookMode === mode);
    const slider = document.querySelector("[data-look-strength]");
    if (slider) {
      slider.value = strength;
      slider.nextElementSibling.value = `${strength} %`;
    }
  }

  /** What lies over the sheet follows its numbers at once; it is kept by its button. */
  function place() {
    const g = svg()?.querySelector("[data-over]");
    const [x, y, width, turn] = ["x", "y", "width", "turn"].map((n) => Number(field(n)?.value));
    if (!g || !(width >= 10) || ![x, y, turn].every(Number.isFinite)) return;
    g.setAttribute("transform", `translate(${x} ${y}) rotate(${turn})`);
    const high = width * Number(g.dataset.high);
    const image = g.querySelector("image");
    const rungs = [...g.querySelectorAll("line")];
    if (image) Object.entries({ x: -width / 2, y: -high / 2, width, height: high }).forEach(([k, v]) => image.setAttribute(k, v));
    const first = rungs.length ? Number(rungs[0].getAttribute("y1")) : 0;
    rungs.forEach((r) => {
      const y1 = (Number(r.getAttribute("y1")) / first) * (-high / 2);
      Object.entries({ x1: -width / 2, x2: width / 2, y1, y2: y1 }).forEach(([k, v]) => r.setAttribute(k, v));
    });
  }

  function show() {
    const form = tools();
    if (form) {
      const radio = form.querySelector(`[name=kind][value=${chosen.kind}]`) ?? form.querySelector("[name=kind]");
      radio.checked = true;
      chosen.kind = radio.value;
      for (const name of ["method", "step"]) form.elements[name].value = chosen[name];
      if (form.elements.reference) form.elements.reference.checked = chosen.reference;
      else chosen.reference = false;
      form.querySelector("[data-patch]").hidden = chosen.kind !== "Patch";
    }
    say();
    over();
    now();
  }

  document.addEventListener("change", (e) => {
    if (!e.target.closest("[data-look-tools]")) return;
    const { name, value, checked, type } = e.target;
    chosen[name] = type === "checkbox" ? checked : value;
    [places, typed] = [[], null];
    show();
  });
  document.addEventListener("input", (e) => {
    if (e.target.closest("[data-look-lay]")) place();
    if (e.target.matches("[data-look-strength]")) {
      strength = Number(e.target.value);
      over();
    }
  });
  document.addEventListener("click", (e) => {
    const to = e.target.closest("[data-look-mode]")?.dataset.lookMode;
    if (!to) return;
    mode = to;
    over();
  });

  document.addEventListener("pointerdown", (e) => {
    if (!root()?.dataset.can || e.button > 0 || !e.target.closest("[data-look] svg")) return;
    e.preventDefault();
    svg().focus({ preventScroll: true });
    const p = at(e);
    if (chosen.kind === "Move") {
      drag = { from: p, x: Number(field("x").value), y: Number(field("y").value) };
      return;
    }
    if (isEdge()) {
      places.push(p);
      if (places.length > 1) send();
      else say("Now its other end; Escape begins anew.");
      now();
      return;
    }
    [places, drawing] = [[p], true];
    svg().setPointerCapture(e.pointerId);
  });
  document.addEventListener("pointermove", (e) => {
    if (!svg()) return;
    if (drag) {
      const [x, y] = at(e);
      field("x").value = (drag.x + x - drag.from[0]).toFixed(1);
      field("y").value = (drag.y + y - drag.from[1]).toFixed(1);
      place();
    }
    if (!drawing) return;
    const p = at(e),
      last = places[places.length - 1];
    if (Math.hypot(p[0] - last[0], p[1] - last[1]) < 1.2 || places.length >= 390) return;
    places.push(p);
    now();
  });
  document.addEventListener("pointerup", () => {
    drag = null;
    if (!drawing) return;
    drawing = false;
    if (places.length > 2) send();
    else {
      places = [];
      say();
      now();
    }
  });

  // By the keys: Enter begins a box, or an edge, in the middle; arrows move it, with shift they size it; Enter keeps it.
  document.addEventListener("keydown", (e) => {
    if (!root()?.dataset.can || e.target !== svg() || e.ctrlKey || e.metaKey || e.altKey) return;
    const [w, h] = [Number(root().dataset.width), Number(root().dataset.height)];
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (e.key === "Escape") {
      [places, typed] = [[], null];
      say();
    } else if (e.key === "Enter" && chosen.kind !== "Move") {
      if (typed) {
        send();
        return;
      }
      typed = { x: w * 0.4, y: h * 0.4, w: w * 0.1, h: isEdge() ? 0 : w * 0.1 };
      say("Arrows move it, with shift they size it; Enter keeps it.");
    } else if (step && typed) {
      e.preventDefault();
      const [a, b] = e.shiftKey ? ["w", "h"] : ["x", "y"];
      typed[a] += 2 * step[0];
      typed[b] += 2 * step[1];
    } else return;
    e.preventDefault();
    if (typed) {
      const { x, y, w: wide, h: high } = typed;
      const [l, t, r, f] = [clamp(x, w), clamp(y, h), clamp(x + wide, w), clamp(y + high, h)];
      places = isEdge()
        ? [
            [l, t],
            [r, f],
          ]
        : [
            [l, t],
            [r, t],
            [r, f],
            [l, f],
          ];
    }
    now();
  });
  document.addEventListener("htmx:afterSettle", show);
  document.addEventListener("DOMContentLoaded", show);
})();
