// Under the skin: a second view laid over the first, and the name of what is pointed at.
"use strict";

(() => {
  const root = document.querySelector("[data-pose]"),
    panel = root?.querySelector("[data-under-skin]");
  if (!panel) return;
  const picture = root.querySelector("[data-turn]"),
    view = root.querySelector("[data-view]"),
    over = root.querySelector("[data-over-view]"),
    overKind = panel.querySelector("[data-over-kind]"),
    mix = panel.querySelector("[data-over-mix]"),
    slider = mix.querySelector("input"),
    line = panel.querySelector("[data-name-line]"),
    out = panel.querySelector("[data-name-out]"),
    list = panel.querySelector("[data-name-list]");
  const dot = document.createElement("span");
  dot.className = "under-dot";
  dot.hidden = true;
  picture.append(dot);
  const checks = panel.querySelector('[data-readout="checks"]'),
    opened = new Set();
  const named = ["bones", "muscles", "ecorche"];
  const first = new URLSearchParams(view.getAttribute("src").split("?")[1]);
  let query = first.toString(),
    kind = first.get("kind"),
    names = null,
    cells = null,
    at = -1,
    asked = 0;

  function layOver() {
    const chosen = overKind.value;
    mix.hidden = over.hidden = !chosen;
    slider.nextElementSibling.value = `${slider.value} %`;
    over.style.opacity = slider.value / 100;
    if (!chosen) return;
    const q = new URLSearchParams(query);
    q.set("kind", chosen);
    const src = `${root.dataset.src}?${q}`;
    if (over.getAttribute("src") !== src) over.src = src;
  }

  /** The two drawings of a check, once somebody looks: they are made for this seat. */
  function drawCheck(card) {
    for (const img of card.querySelectorAll("[data-check-view]")) {
      const q = new URLSearchParams(query);
      for (const k of ["part", "w", "h", "kind"]) q.delete(k);
      q.set("side", card.dataset.side);
      q.set("wrong", img.dataset.checkView === "wrong");
      const src = `${root.dataset.src}/check/${card.dataset.checkCard}?${q}`;
      if (img.getAttribute("src") !== src) img.src = src;
    }
  }

  function reopen() {
    for (const card of checks.querySelectorAll("[data-check-card]")) if (opened.has(card.dataset.checkCard)) card.open = true;
  }

  /** Number of the part at every pixel, from runs along the rows. */
  function unpack(runs, size) {
    const ids = new Int16Array(size);
    let o = 0;
    for (let i = 0; i < runs.length; i += 2) {
      ids.fill(runs[i], o, o + runs[i + 1]);
      o += runs[i + 1];
    }
    return ids;
  }

  function tell(n, x, y) {
    at = n;
    const part = n >= 0 ? names.parts[n] : null;
    out.value = part ? `${part.name} · ${part.latin}` : "Point at a bone or muscle for its name.";
    dot.hidden = !part || x === undefined;
    if (dot.hidden) return;
    const r = view.getBoundingClientRect(),
      p = picture.getBoundingClientRect(),
      scale = Math.min(r.width / names.width, r.height / names.height);
    dot.style.left = `${r.left - p.left + (r.width - names.width * scale) / 2 + (x + 0.5) * scale}px`;
    dot.style.top = `${r.top - p.top + (r.height - names.height * scale) / 2 + (y + 0.5) * scale}px`;
  }

  const tellPart = (n) => tell(n, names.parts[n].x, names.parts[n].y);

  async function load() {
    const mine = ++asked;
    names = cells = null;
    tell(-1);
    line.hidden = list.hidden = !named.includes(kind);
    delete panel.dataset.named;
    if (line.hidden) return;
    const got = await fetch(`${panel.dataset.names}?${query}`)
      .then((r) => (r.ok ? r.json() : null))
      .catch(() => null);
    if (mine !== asked || !got) return;
    names = got;
    cells = unpack(got.runs, got.width * got.height);
    list.querySelector("ul").replaceChildren(
      ...got.parts.map((p, n) => {
        const item = document.createElement("li"),
          button = document.createElement("button"),
          latin = document.createElement("i");
        button.className = "quiet no-underline";
        button.type = "button";
        latin.lang = "la";
        latin.textContent = p.latin;
        button.append(p.name + " ", latin);
        button.addEventListener("focus", () => tellPart(n));
        button.addEventListener("click", () => tellPart(n));
        item.append(button);
        return item;
      }),
    );
    panel.dataset.named = String(got.parts.length);
  }

  picture.addEventListener("pointermove", (e) => {
    if (!cells) return;
    const r = view.getBoundingClientRect(),
      scale = Math.min(r.width / names.width, r.height / names.height),
      x = Math.floor((e.clientX - r.left - (r.width - names.width * scale) / 2) / scale),
      y = Math.floor((e.clientY - r.top - (r.height - names.height * scale) / 2) / scale);
    const inside = x >= 0 && y >= 0 && x < names.width && y < names.height;
    tell(inside ? cells[y * names.width + x] : -1);
  });
  panel.querySelector("[data-name-next]").addEventListener("click", () => {
    if (names?.parts.length) tellPart((at + 1) % names.parts.length);
  });
  checks.addEventListener(
    "toggle",
    (e) => {
      const card = e.target;
      if (card.open) drawCheck(card);
      // What is taken away when the figure turns was not closed by anybody.
      if (card.isConnected) opened[card.open ? "add" : "delete"](card.dataset.checkCard);
    },
    true,
  );
  overKind.addEventListener("change", layOver);
  slider.addEventListener("input", layOver);
  root.addEventListener("harbor:rested", (e) => {
    query = e.detail.query;
    kind = e.detail.state.kind;
    for (const o of overKind.options)
      if (o.dataset.undraped === "True") {
        o.hidden = o.disabled = e.detail.state.g === "1";
        if (o.hidden && o.selected) overKind.value = "";
      }
    layOver();
    reopen();
    load();
  });
  load();
})();
