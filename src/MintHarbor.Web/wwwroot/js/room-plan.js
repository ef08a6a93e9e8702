// Places of the room's plan, moved by hand: dragged, or by the arrows ten centimetres at a time; e and b change what stands there.
"use strict";

(() => {
  let held = null;
  const post = (seat, values) =>
    htmx.ajax("POST", seat.closest("[data-room]").dataset.room, {
      target: "#sheet",
      swap: "outerHTML",
      values: { spot: seat.dataset.spot, x: seat.dataset.x, y: seat.dataset.y, ...values },
    });

  document.addEventListener("pointerdown", (e) => {
    const seat = e.target.closest("[data-room-plan] [data-spot]");
    if (!seat || e.button !== 0) return;
    const svg = seat.ownerSVGElement;
    held = {
      seat,
      k: Number(svg.dataset.scale),
      grain: svg.viewBox.baseVal.width / svg.getBoundingClientRect().width,
      from: [e.clientX, e.clientY],
      at: [Number(seat.dataset.x), Number(seat.dataset.y)],
      to: null,
    };
    seat.setPointerCapture(e.pointerId);
    e.preventDefault();
    seat.focus();
  });
  document.addEventListener("pointermove", (e) => {
    if (!held) return;
    const move = (n, v) => Math.round((held.at[n] + ((v - held.from[n]) * held.grain) / held.k) * 20) / 20;
    held.to = [move(0, e.clientX), move(1, e.clientY)];
    held.seat.setAttribute("transform", `translate(${held.to[0] * held.k} ${held.to[1] * held.k})`);
  });
  document.addEventListener("pointerup", () => {
    if (!held) return;
    const { seat, to, at } = held;
    held = null;
    if (to && (to[0] !== at[0] || to[1] !== at[1])) post(seat, { x: to[0], y: to[1] });
  });
  document.addEventListener("keydown", (e) => {
    const seat = e.target.closest?.("[data-room-plan] [data-spot]");
    if (!seat || e.ctrlKey || e.metaKey || e.altKey) return;
    const step = { ArrowLeft: [-0.1, 0], ArrowRight: [0.1, 0], ArrowUp: [0, -0.1], ArrowDown: [0, 0.1] }[e.key];
    const stands = { e: "Easel", b: "Bench" }[e.key];
    if (!step && !stands) return;
    e.preventDefault();
    const spot = seat.dataset.spot;
    const values = step
      ? { x: (Number(seat.dataset.x) + step[0]).toFixed(2), y: (Number(seat.dataset.y) + step[1]).toFixed(2) }
      : { stands };
    post(seat, values).then(() => document.querySelector(`[data-room-plan] [data-spot="${CSS.escape(spot)}"]`)?.focus());
  });
})();
