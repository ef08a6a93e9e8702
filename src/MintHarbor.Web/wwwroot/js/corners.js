// The four corners on the photograph: dragged under a loupe, or moved by keys.
"use strict";

(() => {
  const board = document.querySelector("[data-corners]");
  if (!board) return;
  const svg = board.querySelector("svg");
  const image = board.querySelector("img");
  const handles = [...svg.querySelectorAll(".corner")];
  const lines = [...svg.querySelectorAll("polygon")];
  const field = document.querySelector("input[name=corners]");
  const [w, h] = [Number(board.dataset.width), Number(board.dataset.height)];
  const at = handles.map((c) => ({ x: Number(c.getAttribute("cx")), y: Number(c.getAttribute("cy")) }));
  let loupe = null;

  function draw() {
    handles.forEach((c, i) => {
      c.setAttribute("cx", at[i].x);
      c.setAttribute("cy", at[i].y);
    });
    for (const l of lines) l.setAttribute("points", at.map((p) => `${p.x},${p.y}`).join(" "));
    field.value = at.map((p) => `${p.x.toFixed(2)},${p.y.toFixed(2)}`).join(",");
  }

  function look(i, e) {
    if (!loupe) {
      loupe = document.createElement("div");
      loupe.className = "loupe";
      loupe.append(document.createElement("canvas"));
      board.append(loupe);
    }
    const r = board.getBoundingClientRect();
    const x = (at[i].x / w) * r.width,
      y = (at[i].y / h) * r.height;
    loupe.style.left = `${Math.max(0, Math.min(r.width - 132, x - 66))}px`;
    loupe.style.top = `${y > 170 ? y - 160 : y + 30}px`;
    const c = loupe.firstChild,
      g = c.getContext("2d");
    c.width = c.height = 264;
    const k = image.naturalWidth / w,
      half = w / 28;
    g.fillStyle = "#DCE5DC";
    g.fillRect(0, 0, 264, 264);
    g.drawImage(image, (at[i].x - half) * k, (at[i].y - half) * k, 2 * half * k, 2 * half * k, 0, 0, 264, 264);
    g.strokeStyle = "#2F5DA8";
    g.lineWidth = 2;
    g.strokeRect(0, 131, 264, 2);
    g.strokeRect(131, 0, 2, 264);
  }

  handles.forEach((c, i) => {
    c.addEventListener("pointerdown", (e) => {
      c.setPointerCapture(e.pointerId);
      c.focus();
      look(i, e);
      e.preventDefault();
    });
    c.addEventListener("pointermove", (e) => {
      if (!c.hasPointerCapture(e.pointerId)) return;
      const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
      at[i] = { x: p.x, y: p.y };
      draw();
      look(i, e);
    });
    c.addEventListener("pointerup", () => {
      loupe?.remove();
      loupe = null;
    });
    c.addEventListener("focus", () => look(i));
    c.addEventListener("blur", () => {
      loupe?.remove();
      loupe = null;
    });
    c.addEventListener("keydown", (e) => {
      const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
      if (!step) return;
      e.preventDefault();
      const k = e.shiftKey ? w / 100 : w / 1500;
      at[i] = { x: at[i].x + step[0] * k, y: at[i].y + step[1] * k };
      draw();
      look(i);
    });
  });
  draw();
})();
