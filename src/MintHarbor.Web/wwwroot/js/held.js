// Boxes round the things of a still life as they are drawn: one after another from corner to corner, or moved and sized by keys.
"use strict";

(() => {
  const root = document.querySelector("[data-held]");
  if (!root) return;
  const svg = root.querySelector("svg");
  const NS = "http://www.w3.org/2000/svg";
  const names = [...root.querySelectorAll("[data-thing]")];
  const can = root.dataset.can === "yes";
  const field = document.querySelector("[data-write]");
  const keep = document.querySelector("[data-keep-boxes]");
  const [width, height] = [Number(root.dataset.width), Number(root.dataset.height)];
  const boxes = root.dataset.boxes ? root.dataset.boxes.split(";").map((b) => b.split(",").map(Number)) : names.map(() => null);
  let now = Math.max(0, boxes.indexOf(null)),
    from = null;

  function draw() {
    svg.replaceChildren(
      ...boxes.flatMap((b, i) => {
        if (!b) return [];
        const r = document.createElementNS(NS, "rect");
        r.setAttribute("class", i === now && can ? "held-box held-now" : "held-box");
        [
          ["x", b[0]],
          ["y", b[1]],
          ["width", Math.max(0, b[2] - b[0])],
          ["height", Math.max(0, b[3] - b[1])],
        ].forEach(([k, v]) => r.setAttribute(k, v));
        const t = document.createElementNS(NS, "text");
        t.setAttribute("class", "held-name");
        t.setAttribute("x", b[0] + 2);
        t.setAttribute("y", b[1] - 2);
        t.textContent = names[i].textContent;
        return [r, t];
      }),
    );
    names.forEach((n, i) => {
      n.setAttribute("aria-pressed", i === now && can);
      n.classList.toggle("held-done", boxes[i] !== null);
    });
    if (!field) return;
    field.value = boxes.every(Boolean) ? boxes.map((b) => b.map((v) => v.toFixed(2)).join(",")).join(";") : "";
    keep.disabled = !field.value;
  }

  names.forEach((n, i) =>
    n.addEventListener("click", () => {
      now = i;
      draw();
      svg.focus();
    }),
  );
  draw();
  if (!can) return;

  svg.setAttribute("tabindex", "0");
  const at = (e) => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return [Math.max(0, Math.min(width, p.x)), Math.max(0, Math.min(height, p.y))];
  };
  svg.addEventListener("pointerdown", (e) => {
    if (e.button > 0) return;
    from = at(e);
    svg.setPointerCapture(e.pointerId);
    e.preventDefault();
  });
  svg.addEventListener("pointermove", (e) => {
    if (!from) return;
    const [x, y] = at(e);
    boxes[now] = [Math.min(from[0], x), Math.min(from[1], y), Math.max(from[0], x), Math.max(from[1], y)];
    draw();
  });
  svg.addEventListener("pointerup", () => {
    if (!from) return;
    from = null;
    // The next that has none yet.
    const next = boxes.indexOf(null);
    if (boxes[now] && next >= 0) now = next;
    draw();
  });
  svg.addEventListener("pointercancel", () => {
    from = null;
  });
  svg.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return;
    const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key] || [];
    if (dx === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    const b = boxes[now] || [width * 0.4, height * 0.4, width * 0.6, height * 0.6];
    // With shift the far corner alone goes.
    boxes[now] = e.shiftKey
      ? [b[0], b[1], Math.max(b[0] + 4, Math.min(width, b[2] + 2 * dx)), Math.max(b[1] + 4, Math.min(height, b[3] + 2 * dy))]
      : [b[0] + dx, b[1] + dy, b[2] + dx, b[3] + dy];
    draw();
  });
  root.dataset.ready = "yes";
})();
