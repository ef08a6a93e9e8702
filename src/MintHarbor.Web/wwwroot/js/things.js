// The arrangement from above: things are moved by finger, mouse or keys and turned by a slider each; the view beside it follows. What stands in
// another is marked, and said, once it rests.
"use strict";

(() => {
  const root = document.querySelector("[data-things]");
  if (!root) return;
  const layers = root.querySelectorAll("button[data-layer]");
  for (const b of layers)
    b.addEventListener("click", () => {
      const on = b.getAttribute("aria-pressed") !== "true";
      b.setAttribute("aria-pressed", on);
      root.classList.toggle(`with-${b.dataset.layer}`, on);
    });

  const plan = root.querySelector("[data-plan]");
  const says = root.querySelector("[data-plan-says]");
  const read = (text) => {
    const [ground, ...rows] = text.split(";");
    return {
      ground,
      things: rows
        .filter(Boolean)
        .map((r) => r.split(","))
        .map(([id, x, z, turn]) => ({ id, x: Number(x), z: Number(z), turn: Number(turn) })),
    };
  };
  const round = (v) => Math.round(v * 1000) / 1000;
  const write = (a) => [a.ground, ...a.things.map((t) => [t.id, round(t.x), round(t.z), Math.round(t.turn)].join(","))].join(";");
  const now = read(root.dataset.a);

  root.addEventListener("harbor:readout", (e) => {
    const stands = e.detail.querySelector("[data-overlaps]");
    if (!stands) return;
    const bad = stands.dataset.overlaps.split(",").filter(Boolean);
    for (const g of plan.querySelectorAll("[data-thing]")) g.classList.toggle("in-the-way", bad.includes(g.dataset.thing));
    if (says) says.textContent = stands.textContent.trim();
    root.dataset.stands = bad.length || stands.textContent.trim() ? "no" : "yes";
  });
  // Where one looks from, as the view turns.
  root.addEventListener("input", sight);
  document.addEventListener("keyup", sight);
  root.addEventListener("pointermove", sight);
  function sight() {
    const line = plan.querySelector("[data-plan-sight]");
    const a = (Number(root.querySelector('[data-of="az"]').value) * Math.PI) / 180;
    const far = Math.hypot(line.x2.baseVal.value, line.y2.baseVal.value);
    line.setAttribute("x2", far * Math.sin(a));
    line.setAttribute("y2", far * Math.cos(a));
  }

  if (!plan.dataset.can) return;
  const add = root.querySelector("[data-add]");
  const turns = root.querySelector("[data-turns]");
  const most = 5;
  const kinds = new Map(
    [...add.options].filter((o) => o.value).map((o) => [o.value, { name: o.dataset.name, reach: Number(o.dataset.reach) }]),
  );
  const svg = () => plan.querySelector("svg");
  const group = (i) => plan.querySelector(`[data-thing="${i}"]`);

  function tell(at) {
    delete root.dataset.stands;
    root.dispatchEvent(new CustomEvent("harbor:set", { detail: { values: { a: write(now) }, now: at } }));
  }

  function label(t) {
    const off = (v, less, more) => (Math.abs(v) < 0.005 ? "" : `, ${Math.round(Math.abs(100 * v))} cm ${v < 0 ? less : more}`);
    return `${kinds.get(t.id).name}${off(t.x, "left", "right")}${off(t.z, "back", "in front")}, turned ${Math.round(t.turn)}°`;
  }

  function place(i) {
    const t = now.things[i],
      g = group(i);
    g.setAttribute("transform", `translate(${100 * t.x} ${100 * t.z}) rotate(${-t.turn})`);
    g.setAttribute("aria-label", label(t));
    g.querySelector("text").setAttribute("transform", `rotate(${t.turn})`);
  }

  /** The plan shows the things with room round them, not the whole table: on a phone they are to be caught with a thumb. */
  function frame() {
    const [w, d] = limits();
    const span = (along, most) => {
      const ends = now.things.flatMap((t) => [-1, 1].map((s) => t[along] + (s * kinds.get(t.id).reach) / 100));
      return [Math.max(-most, Math.min(...ends) - 0.16) - 0.04, Math.min(most, Math.max(...ends) + 0.16) + 0.04];
    };
    const [x0, x1] = span("x", w),
      [z0, z1] = span("z", d);
    svg().setAttribute("viewBox", [x0, z0, x1 - x0, z1 - z0].map((v) => Math.round(100 * v)).join(" "));
  }

  function limits() {
    return now.ground === "table" ? [0.65, 0.4] : [1.2, 1];
  }
  function move(i, x, z) {
    const [w, d] = limits();
    now.things[i].x = Math.max(-w, Math.min(w, x));
    now.things[i].z = Math.max(-d, Math.min(d, z));
    place(i);
    tell(false);
  }

  /** A slider and a way out for each thing. */
  function rows() {
    turns.replaceChildren(
      ...now.things.map((t, i) => {
        const label = document.createElement("label");
        const slider = Object.assign(document.createElement("input"), { type: "range", min: -180, max: 180, step: 1, value: t.turn });
        const shown = document.createElement("output");
        const out = Object.assign(document.createElement("button"), { type: "button", className: "quiet", textContent: "away" });
        out.setAttribute("aria-label", `Take the ${kinds.get(t.id).name} away`);
        out.disabled = now.things.length === 1;
        slider.value = String(((((t.turn + 180) % 360) + 360) % 360) - 180);
        shown.value = `${slider.value}°`;
        slider.addEventListener("input", () => {
          t.turn = Number(slider.value);
          shown.value = `${slider.value}°`;
          place(i);
          tell(false);
        });
        out.addEventListener("click", () => {
          now.things.splice(i, 1);
          again();
        });
        label.append(kinds.get(t.id).name, slider, shown);
        const row = document.createElement("div");
        row.className = "thing-row";
        row.append(label, out);
        return row;
      }),
    );
    add.disabled = now.things.length >= most;
  }

  /** More or fewer things, or another ground: the plan is the server's to draw. */
  let asked = 0;
  async function again() {
    const mine = ++asked;
    rows();
    tell(true);
    const q = new URLSearchParams(location.search);
    q.set("a", write(now));
    const page = await fetch(`${location.pathname}?${q}`)
      .then((r) => (r.ok ? r.text() : null))
      .catch(() => null);
    if (!page || mine !== asked) return;
    const fresh = new DOMParser().parseFromString(page, "text/html").querySelector("[data-plan]");
    plan.replaceChildren(...[...fresh.childNodes].map((n) => document.importNode(n, true)));
    frame();
    root.dataset.planned = String(now.things.length);
  }

  add.addEventListener("change", () => {
    if (!add.value) return;
    const id = add.value,
      reach = kinds.get(id).reach / 100;
    const [w, d] = limits();
    // The first free place, from the middle outward.
    let best = { x: 0, z: 0 };
    search: for (let far = 0; far < Math.max(w, d); far += 0.04)
      for (let n = 0; n < 16; n++) {
        const x = far * Math.sin((n * Math.PI) / 8),
          z = far * Math.cos((n * Math.PI) / 8);
        if (Math.abs(x) + reach > w || Math.abs(z) + reach > d) continue;
        if (now.things.every((t) => Math.hypot(t.x - x, t.z - z) > reach + kinds.get(t.id).reach / 100)) {
          best = { x, z };
          break search;
        }
      }
    now.things.push({ id, ...best, turn: 0 });
    add.value = "";
    again();
  });
  root.querySelector("[data-ground]").addEventListener("change", (e) => {
    now.ground = e.target.checked ? "floor" : "table";
    again();
  });

  let held = null;
  const at = (e) => new DOMPoint(e.clientX, e.clientY).matrixTransform(svg().getScreenCTM().inverse());
  plan.addEventListener("pointerdown", (e) => {
    const g = e.target.closest("[data-thing]");
    if (!g || e.button > 0) return;
    const i = Number(g.dataset.thing),
      p = at(e);
    held = { i, dx: now.things[i].x - p.x / 100, dz: now.things[i].z - p.y / 100 };
    plan.setPointerCapture(e.pointerId);
    g.focus();
    e.preventDefault();
  });
  plan.addEventListener("pointermove", (e) => {
    if (!held) return;
    const p = at(e);
    move(held.i, p.x / 100 + held.dx, p.y / 100 + held.dz);
  });
  for (const end of ["pointerup", "pointercancel"])
    plan.addEventListener(end, () => {
      if (held) frame();
      held = null;
    });
  plan.addEventListener("keydown", (e) => {
    const g = e.target.closest("[data-thing]");
    if (!g || e.ctrlKey || e.metaKey || e.altKey) return;
    const i = Number(g.dataset.thing),
      t = now.things[i],
      step = e.shiftKey ? 0.05 : 0.01;
    const [dx, dz] = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key] || [];
    if (dx !== undefined) move(i, t.x + dx, t.z + dz);
    else if (e.key === "," || e.key === ".") {
      t.turn += e.key === "," ? -5 : 5;
      place(i);
      rows();
      tell(false);
    } else return;
    e.preventDefault();
    e.stopPropagation();
  });
  rows();
  frame();
})();
