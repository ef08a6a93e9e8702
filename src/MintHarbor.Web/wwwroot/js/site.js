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

/** Single keys can be turned off (WCAG 2.1.4), for whoever speaks to the machine or strikes keys unmeant: then no page hears a bare letter, digit
 *  or sign outside a field. Space, arrows and Enter stay. */
const keysOff = () => /(?:^|; )keys=off/.test(document.cookie);
window.addEventListener(
  "keydown",
  (e) => {
    const bare = e.key.length === 1 && e.key !== " " && !e.ctrlKey && !e.metaKey && !e.altKey;
    if (bare && keysOff() && !e.target.closest?.("input, textarea, select, [contenteditable]")) e.stopPropagation();
  },
  true,
);
document.addEventListener("change", (e) => {
  if (!e.target.matches("[data-single-keys]")) return;
  document.cookie = `keys=${e.target.checked ? "on" : "off"};path=/;max-age=31536000;samesite=lax`;
});
document.addEventListener("DOMContentLoaded", () => {
  for (const box of document.querySelectorAll("[data-single-keys]")) box.checked = !keysOff();
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

/** What is typed is kept in the browser until the server says that it has it: forms marked data-keep, those that came with a fragment too.
 *  It belongs to whoever typed it: on a shared device the next person sees nothing of it. */
const person = document.body?.dataset.person || "nobody";
const mine = `keep:${person}:`;
const keepKey = (form) => `${mine}${location.pathname}:${form.dataset.keep}`;
const keepFields = (form) => [...form.querySelectorAll("textarea[name], input[type=text][name], input:not([type])[name], select[name]")];
/** What the server put into a field. */
const given = (f) => (f.options ? ([...f.options].find((o) => o.defaultSelected) ?? f.options[0])?.value : f.defaultValue);
/** The browser's own store; one that keeps nothing is no error, what is typed is sent all the same. */
const shelf = {
  get(key) {
    try {
      return JSON.parse(localStorage.getItem(key) || "null");
    } catch {
      return null;
    }
  },
  set(key, value) {
    try {
      localStorage.setItem(key, JSON.stringify(value));
    } catch {
      /* nothing is kept */
    }
  },
  drop(key) {
    try {
      localStorage.removeItem(key);
    } catch {
      /* nothing was kept */
    }
  },
  keys(prefix) {
    try {
      return Object.keys(localStorage).filter((k) => k.startsWith(prefix));
    } catch {
      return [];
    }
  },
};
/** Each field with what stood there when it was typed over, so that a later change of somebody else's is not written over. */
function keepTyped(form) {
  const fields = keepFields(form);
  // A choice alone is no words: it is kept with them, so that they stay with whom they are about.
  if (fields.some((f) => !f.options && f.value !== given(f)))
    shelf.set(keepKey(form), Object.fromEntries(fields.map((f) => [f.name, { said: f.value, over: given(f) }])));
  else forgetTyped(form);
}
const forgetTyped = (form) => shelf.drop(keepKey(form));
function restoreTyped() {
  for (const form of document.querySelectorAll("form[data-keep]:not([data-kept])")) {
    form.dataset.kept = "";
    const kept = shelf.get(keepKey(form)) || {};
    for (const f of keepFields(form)) {
      const words = kept[f.name];
      if (!words || words.said === f.value) continue;
      if (!f.value || f.value === words.over || form.hasAttribute("hx-post")) f.value = words.said;
    }
  }
}
document.addEventListener("input", (e) => {
  const form = e.target.closest("form[data-keep]");
  if (form) keepTyped(form);
});
/** The form says which words it sends; the server's answer says which it took, and only then they are forgotten. */
document.addEventListener("submit", (e) => {
  const form = e.target;
  if (!form.matches("form[data-keep]:not([data-upload], [data-walk], [data-keep-on], [hx-post])")) return;
  let name = form.querySelector("input[name=kept]");
  if (!name) form.append((name = Object.assign(document.createElement("input"), { type: "hidden", name: "kept" })));
  name.value = keepKey(form).slice(mine.length);
});
function forgetTaken() {
  const taken = document.cookie.match(/(?:^|; )kept=([^;]*)/);
  if (!taken) return;
  shelf.drop(mine + decodeURIComponent(taken[1]));
  document.cookie = "kept=;path=/;max-age=0;samesite=lax";
}
document.addEventListener("harbor:sent", (e) => forgetTyped(e.target), true);
document.addEventListener("DOMContentLoaded", () => {
  forgetTaken();
  restoreTyped();
});
document.addEventListener("htmx:afterSettle", restoreTyped);

/** Signing out: what was typed or said and not sent yet would be lost with it, so it is asked for first; then this person's things go from
 *  the device. What others left waiting here is theirs and stays. */
document.addEventListener("submit", async (e) => {
  const form = e.target;
  if (!form.matches("[data-sign-out]") || form.dataset.sure !== undefined) return;
  e.preventDefault();
  const typed = shelf.keys(mine).filter((k) => Object.values(shelf.get(k) || {}).some((f) => f.said && f.said !== f.over));
  const notes = await waitingNotes();
  const waits = [
    typed.length && "words that you typed and did not send",
    notes.length && `${notes.length} ${notes.length === 1 ? "note" : "notes"} of the walk`,
  ];
  if (waits.some(Boolean) && !window.confirm(`Still here and not sent: ${waits.filter(Boolean).join(" and ")}. Sign out and lose them?`))
    return;
  for (const k of shelf.keys(mine)) shelf.drop(k);
  await dropNotes(notes);
  if (window.caches) for (const name of await caches.keys()) await caches.delete(name);
  form.dataset.sure = "";
  form.submit();
});

/** Notes of the walk that wait in this browser. */
const walkStore = () =>
  new Promise((done, fail) => {
    const ask = indexedDB.open("walk", 1);
    ask.onupgradeneeded = () => ask.result.createObjectStore("notes", { keyPath: "key" });
    ask.onsuccess = () => done(ask.result);
    ask.onerror = () => fail(ask.error);
  });
async function inWalkStore(mode, work) {
  const db = await walkStore();
  try {
    return await new Promise((done, fail) => {
      const turn = db.transaction("notes", mode);
      const ask = work(turn.objectStore("notes"));
      turn.oncomplete = () => done(ask?.result);
      turn.onerror = () => fail(turn.error);
      turn.onabort = () => fail(turn.error);
    });
  } finally {
    db.close();
  }
}
/** This person's own, in the order in which they were said; the store itself orders by key. */
async function waitingNotes() {
  try {
    return (await inWalkStore("readonly", (s) => s.getAll())).filter((n) => n.author === person).sort((a, b) => a.fields.at - b.fields.at);
  } catch {
    return [];
  }
}
async function dropNotes(notes) {
  for (const n of notes) await inWalkStore("readwrite", (s) => s.delete(n.key));
}

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
