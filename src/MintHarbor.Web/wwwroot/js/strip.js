// Dragging on the pose strip: a line's right edge changes its length, its body changes places with the line it is let go over.
// What the change breaks is asked of the server while it is still in the hand.
"use strict";

(() => {
  let held = null;
  let asked = 0;

  const says = (text, holds) => {
    const el = document.querySelector("[data-strip-says]");
    if (!el) return;
    el.textContent = text;
    el.classList.toggle("chalk", !holds);
  };
  const minutesAt = (e) => {
    const svg = held.svg;
    const box = svg.getBoundingClientRect();
    return (((e.clientX - box.left) / box.width) * svg.viewBox.baseVal.width) / held.scale;
  };

  document.addEventListener("pointerdown", (e) => {
    const grip = e.target.closest("[data-strip] [data-edge], [data-strip] [data-line]");
    if (!grip || e.button !== 0) return;
    const svg = grip.closest("svg");
    const ghost = svg.querySelector("[data-ghost]");
    held = {
      grip,
      svg,
      ghost,
      path: grip.closest("[data-strip]").dataset.strip,
      scale: Number(ghost.dataset.scale),
      edge: grip.dataset.edge !== undefined,
      row: Number(grip.dataset.edge ?? grip.dataset.line),
      moved: false,
      from: e.clientX,
      change: null,
    };
    if (!held.path) {
      held = null;
      return;
    }
    grip.setPointerCapture(e.pointerId);
    e.preventDefault();
  });

  document.addEventListener("pointermove", (e) => {
    if (!held) return;
    if (!held.moved && Math.abs(e.clientX - held.from) < 4) return;
    held.moved = true;
    const at = minutesAt(e);
    const bodies = [...held.svg.querySelectorAll("[data-line]")];
    const own = bodies[held.row];
    const x = Number(own.getAttribute("x"));
    if (held.edge) {
      const step = Number(held.grip.dataset.step) || 1;
      const minutes = Math.max(step, Math.round((at - x / held.scale) / step) * step);
      outline(x, minutes * held.scale);
      change({ kind: "Length", index: held.row, minutes }, `${minutes} min`);
    } else {
      const over = bodies.findIndex(
        (b) =>
          at * held.scale >= Number(b.getAttribute("x")) && at * held.scale < Number(b.getAttribute("x")) + Number(b.getAttribute("width")),
      );
      if (over < 0) return;
      outline(Number(bodies[over].getAttribute("x")), Number(bodies[over].getAttribute("width")));
      change(over === held.row ? null : { kind: "Swap", index: held.row, to: over }, over === held.row ? "" : "changes places");
    }
  });

  function outline(x, width) {
    held.ghost.setAttribute("x", x);
    held.ghost.setAttribute("width", Math.max(2, width));
    held.ghost.setAttribute("visibility", "visible");
  }

  async function change(to, text) {
    if (JSON.stringify(to) === JSON.stringify(held.change)) return;
    held.change = to;
    const turn = ++asked;
    if (!to) {
      says("", true);
      return;
    }
    const query = new URLSearchParams(Object.entries(to).map(([k, v]) => [k, String(v)]));
    try {
      const answer = await fetch(`${held.path}/try?${query}`, { headers: { "HX-Request": "true" } });
      const found = await answer.text();
      if (turn === asked && answer.ok) says(found === "holds" ? `${text}: all rules hold` : `${text}: ${found}`, found === "holds");
    } catch {
      /* the line is down: it is said when the change is sent */
    }
  }

  function letGo(send) {
    if (!held) return;
    const { ghost, change: to, moved, row, path, edge } = held;
    ghost.setAttribute("visibility", "hidden");
    held = null;
    if (!send) {
      says("", true);
      return;
    }
    if (!moved) {
      if (!edge) htmx.ajax("GET", `${path}?row=${row}`, { target: "#sheet", swap: "outerHTML" });
      return;
    }
    if (!to) return;
    const { index, ...values } = to;
    htmx.ajax("POST", `${path}/edit`, { target: "#sheet", swap: "outerHTML", values: { row: index, ...values } });
  }
  document.addEventListener("pointerup", () => letGo(true));
  document.addEventListener("pointercancel", () => letGo(false));
  document.addEventListener("keydown", (e) => {
    if (e.key === "Escape") letGo(false);
  });
})();
