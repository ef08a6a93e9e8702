// What every page shares: the theme, notes laid beside what they speak of, leader lines, and errors of fragments.
"use strict";

document.addEventListener("click", (e) => {
  const button = e.target.closest("[data-theme-switch]");
  if (!button) return;
  const root = document.documentElement;
  const dim = root.dataset.theme !== "dim";
  root.dataset.theme = dim ? "dim" : "light";
  document.cookie = `theme=${dim ? "dim" : "light"};path=/;max-age=31536000;samesite=lax`;
  button.textContent = dim ? "light" : "dim";
});

/** Below the fold and on paper leaders become letters, one at the note and one at its place; elsewhere they are not shown. */
function letterNotes(pairs) {
  let n = 0;
  for (const { note, place } of pairs) {
    const letter = note.querySelector(".letter");
    if (!letter) continue;
    letter.textContent = "";
    if (!place || place.dataset.quiet !== undefined) continue;
    const text = String.fromCharCode(97 + n++);
    letter.textContent = text;
    const drawn = place.closest("svg.over");
    const mark = drawn ? document.createElementNS("http://www.w3.org/2000/svg", "text") : document.createElement("span");
    mark.setAttribute("class", "place-letter");
    mark.setAttribute("aria-hidden", "true");
    mark.textContent = text;
    if (drawn) {
      const box = place.getBBox();
      mark.setAttribute("x", box.x + box.width + 4);
      mark.setAttribute("y", box.y - 2);
      drawn.append(mark);
    } else (place.querySelector(":scope > th.what, :scope > th") || place).append(mark);
  }
}

/** What a leader must not strike through: words and fields of the sheet, where they lie. */
function obstacles(sheet, origin) {
  const rects = [];
  const keep = (r) => {
    if (r.width > 1 && r.height > 1)
      rects.push({ left: r.left - origin.left, right: r.right - origin.left, top: r.top - origin.top, bottom: r.bottom - origin.top });
  };
  const words = document.createTreeWalker(sheet, NodeFilter.SHOW_TEXT);
  const range = document.createRange();
  while (words.nextNode()) {
    if (!words.currentNode.data.trim()) continue;
    range.selectNodeContents(words.currentNode);
    for (const r of range.getClientRects()) keep(r);
  }
  for (const field of sheet.querySelectorAll("input:not([type=hidden]), select, textarea, button, img"))
    keep(field.getBoundingClientRect());
  return rects;
}

const clear = (from, to, y, rects) => rects.every((r) => r.bottom < y - 4 || r.top > y + 4 || r.right <= from + 1 || r.left >= to);

/** The way from a place to where its leader bends into the margin, past words and fields: level at the place's own height, or at the nearest
 *  that is free. A place that reaches the margin steps back a little, so that leaders side by side don't lie on one another. */
function way(x, y, bend, rects) {
  if (bend <= x) return clear(bend, x, y, rects) ? `M${x} ${y}H${bend}` : `M${x} ${y}`;
  if (clear(x, bend, y, rects)) return `M${x} ${y}H${bend}`;
  for (let off = 2; off <= 80; off += 2)
    for (const at of [y + off, y - off]) if (clear(x + 3, bend, at, rects)) return `M${x} ${y}H${x + 4}V${at}H${bend}`;
  return `M${bend} ${y}`;
}

/** Notes stand at the height of what they speak of; a leader joins them. Leaders never cross, since notes keep the order of
 *  their places from the top. */
function layNotes() {
  const page = document.querySelector(".page");
  const notes = page && page.querySelector(".notes");
  if (!notes) return;
  page.querySelectorAll(".leaders, .place-letter").forEach((l) => l.remove());
  const all = [...notes.querySelectorAll(":scope > .note")];
  const folded = window.matchMedia("(max-width: 959px)").matches;
  notes.classList.toggle("laid", !folded);
  all.forEach((n) => {
    n.style.top = "";
  });
  const pairs = all.map((note) => ({ note, place: note.dataset.for ? document.getElementById(note.dataset.for) : null }));
  letterNotes(pairs);
  if (folded) {
    notes.style.minHeight = "";
    return;
  }
  const origin = page.getBoundingClientRect();
  const box = notes.getBoundingClientRect();
  const middle = (el) => {
    const r = el.getBoundingClientRect();
    return r.top + Math.min(r.height, 50) / 2;
  };
  for (const p of pairs) p.want = p.place ? middle(p.place) - box.top - 10 : null;
  // A note without a place follows the lowest of those before it.
  let lowest = -1;
  for (const p of pairs) {
    p.want = p.want === null ? lowest + 0.01 : p.want;
    lowest = Math.max(lowest, p.want);
  }
  // Of places at one height the one nearer the margin comes first, or its leader would cross the other's.
  const level = (p) => Math.round(p.want / 4);
  const reach = (p) => (p.place ? p.place.getBoundingClientRect().right : 0);
  pairs.sort((a, b) => level(a) - level(b) || reach(b) - reach(a) || a.want - b.want);
  let free = 10;
  for (const p of pairs) {
    p.top = Math.max(p.want, free);
    free = p.top + p.note.offsetHeight + 16;
  }
  // Pushed below the last place, notes may close up from the bottom again.
  const room = Math.max(notes.clientHeight, 0);
  let limit = Math.max(room, free - 16);
  for (let k = pairs.length - 1; k >= 0; k--) {
    const p = pairs[k];
    const fits = limit - p.note.offsetHeight;
    if (p.top > fits) p.top = fits;
    limit = p.top - 16;
  }
  free = 10;
  for (const p of pairs) {
    p.top = Math.max(p.top, free);
    free = p.top + p.note.offsetHeight + 16;
    p.note.style.top = `${p.top}px`;
  }
  notes.style.minHeight = `${free}px`;
  const ns = "http://www.w3.org/2000/svg";
  const svg = document.createElementNS(ns, "svg");
  svg.setAttribute("class", "leaders");
  svg.setAttribute("aria-hidden", "true");
  const edge = page.querySelector(".margin").getBoundingClientRect().left - origin.left;
  const crossed = obstacles(page.querySelector(".sheet"), origin);
  let drawn = 0;
  for (const p of pairs) {
    if (!p.place || p.place.dataset.quiet !== undefined) continue;
    const r = p.place.getBoundingClientRect();
    const dot = p.place.closest("svg.over") !== null;
    const x = dot ? r.left + r.width / 2 - origin.left : Math.min(r.right - origin.left, edge);
    const y = (dot ? r.top + r.height / 2 : middle(p.place)) - origin.top;
    const y2 = box.top - origin.top + p.top + 10;
    const x2 = edge + 22;
    const bend = dot ? Math.max(x + 10, edge - 60) : edge - 12 - 4 * (drawn % 3);
    const d =
      Math.abs(y - y2) < 2 && clear(x, bend, y2, crossed)
        ? `M${x} ${y2}H${x2}`
        : dot
          ? `M${x} ${y}L${bend} ${y2}H${x2}`
          : `${way(x, y, bend, crossed)}L${edge + 4} ${y2}H${x2}`;
    if (dot) add("path", { d, class: "halo" });
    add("path", { d });
    if (dot) add("circle", { cx: x, cy: y, r: 2.2 });
    drawn++;
  }
  page.append(svg);
  function add(tag, attributes) {
    const el = document.createElementNS(ns, tag);
    for (const [k, v] of Object.entries(attributes)) el.setAttribute(k, v);
    svg.append(el);
  }
}

let pending = 0;
function laySoon() {
  cancelAnimationFrame(pending);
  pending = requestAnimationFrame(layNotes);
}
document.addEventListener("DOMContentLoaded", laySoon);
document.addEventListener("toggle", laySoon, true);
document.addEventListener("htmx:afterSettle", laySoon);
document.addEventListener("harbor:noted", laySoon);
window.addEventListener("resize", laySoon);
window.addEventListener("load", laySoon);
if (document.fonts) document.fonts.ready.then(laySoon);

document.addEventListener("click", (e) => {
  const open = e.target.closest("[data-dialog]");
  if (open) document.getElementById(open.dataset.dialog)?.showModal();
});

/** Up and down choose a line of a timetable that can be changed. */
document.addEventListener("keydown", (e) => {
  if ((e.key !== "ArrowDown" && e.key !== "ArrowUp") || e.target.closest("input, textarea, select, .landmark")) return;
  const lines = [...document.querySelectorAll(".timetable th.what a")];
  if (!lines.length) return;
  e.preventDefault();
  const at = lines.findIndex((l) => l.getAttribute("aria-current") === "true");
  lines[Math.max(0, Math.min(lines.length - 1, at < 0 ? 0 : at + (e.key === "ArrowDown" ? 1 : -1)))].click();
});

/** Single keys press what carries them: <button data-key="z">. Not while somebody types. */
document.addEventListener("keydown", (e) => {
  if (e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select, [contenteditable]")) return;
  const target = [...document.querySelectorAll("[data-key]")].find((b) => b.dataset.key === e.key && !b.disabled);
  if (!target) return;
  e.preventDefault();
  if (target.matches("input, textarea, select")) target.focus();
  else target.click();
});

/** What is typed is kept in the browser until the server has it: forms marked data-keep, those that came with a fragment too. */
const keepKey = (form) => `keep:${location.pathname}:${form.dataset.keep}`;
const keepFields = (form) => [...form.querySelectorAll("textarea[name], input[type=text][name], input:not([type])[name]")];
function keepTyped(form) {
  try {
    localStorage.setItem(keepKey(form), JSON.stringify(Object.fromEntries(keepFields(form).map((f) => [f.name, f.value]))));
  } catch {
    /* a browser that keeps nothing still sends */
  }
}
function forgetTyped(form) {
  try {
    localStorage.removeItem(keepKey(form));
  } catch {
    /* nothing was kept */
  }
}
function restoreTyped() {
  for (const form of document.querySelectorAll("form[data-keep]:not([data-kept])")) {
    form.dataset.kept = "";
    try {
      const kept = JSON.parse(localStorage.getItem(keepKey(form)) || "{}");
      // A form that is sent by fragments shows what the server knows; typed words that never got there outrank it.
      for (const f of keepFields(form)) if (kept[f.name] && (!f.value || form.hasAttribute("hx-post"))) f.value = kept[f.name];
    } catch {
      /* nothing was kept */
    }
  }
}
document.addEventListener("input", (e) => {
  const form = e.target.closest("form[data-keep]");
  if (form) keepTyped(form);
});
document.addEventListener("submit", (e) => {
  if (e.target.matches("form[data-keep]:not([data-upload], [hx-post])")) forgetTyped(e.target);
});
document.addEventListener("harbor:sent", (e) => forgetTyped(e.target), true);
document.addEventListener("DOMContentLoaded", restoreTyped);
document.addEventListener("htmx:afterSettle", restoreTyped);

/** A line that is down: what could not be sent waits here and is sent again when the server answers. Sending twice is harmless:
 *  every act says what it saw. */
const line = { waiting: new Map(), timer: 0 };
function sayLine(text) {
  let el = document.getElementById("line");
  if (!el) {
    el = Object.assign(document.createElement("p"), { id: "line", className: "line-down" });
    el.setAttribute("role", "status");
    document.body.append(el);
  }
  el.textContent = text;
  el.hidden = text === "";
}
async function tryLine() {
  clearTimeout(line.timer);
  try {
    const answer = await fetch("/health/ready", { cache: "no-store" });
    if (!answer.ok) throw new Error("not ready");
  } catch {
    line.timer = setTimeout(tryLine, 1000);
    return;
  }
  sayLine("The line is back.");
  // One after another, in the order they were done: each answer brings a new sheet.
  const waiting = [...line.waiting.values()];
  line.waiting.clear();
  for (const again of waiting) await again();
  setTimeout(() => sayLine(""), 4000);
}
function lineDown(e) {
  const { requestConfig: c, elt, target, xhr } = e.detail;
  const gone = !xhr || xhr.status === 0 || xhr.status === 502 || xhr.status === 503 || xhr.status === 504;
  if (!gone) return;
  if (c?.verb === "get" && c.path.includes("/since")) {
    clearTimeout(line.timer);
    line.timer = setTimeout(tryLine, 1000);
  } else {
    const values = c.formData ? Object.fromEntries(c.formData) : { ...c.parameters };
    // Of the same thing only what was last said goes out.
    const key = [c.path, values.remark, values.id, values.act, values.key, values.fault].join(" ");
    line.waiting.delete(key);
    line.waiting.set(key, () =>
      window.htmx.ajax(c.verb.toUpperCase(), c.path, { target: document.contains(target) ? target : "#sheet", swap: "outerHTML", values }),
    );
  }
  sayLine("The line is down. What you typed and did is kept here, and goes out when it is back.");
  clearTimeout(line.timer);
  line.timer = setTimeout(tryLine, 1000);
}
document.addEventListener("htmx:sendError", lineDown);
document.addEventListener("htmx:responseError", lineDown);
document.addEventListener("htmx:afterRequest", (e) => {
  const form = e.detail.elt?.closest?.("form[data-keep]");
  if (form && e.detail.successful) forgetTyped(form);
});
