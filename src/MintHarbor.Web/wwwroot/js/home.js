// Timed practice: whole minutes while there is time, seconds only in the last, so that the eye stays on the figure.
"use strict";

(() => {
  const root = document.querySelector("[data-home]");
  if (!root) return;
  const all = JSON.parse(root.dataset.sittings);
  const find = (name) => root.querySelector(`[data-${name}]`);
  let at = 0,
    left = all[0].minutes * 60,
    since = null;

  const remaining = () => Math.max(0, left - (since === null ? 0 : (performance.now() - since) / 1000));

  function show() {
    const seconds = remaining();
    const last = seconds < 60;
    find("left").textContent = at >= all.length ? "" : last ? Math.ceil(seconds) : Math.ceil(seconds / 60);
    find("unit").textContent = at >= all.length ? "" : last ? "s" : "min";
    find("pause").textContent = since !== null ? "Pause" : at === 0 && seconds === all[0].minutes * 60 ? "Begin" : "Go on";
  }

  function go(n) {
    at = n;
    if (at >= all.length) {
      since = null;
      find("name").textContent = "That was the set";
      find("where").textContent = "Stand back, turn the sheets upside down, choose the one to ask about.";
      find("pause").disabled = find("next").disabled = true;
      show();
      return;
    }
    const s = all[at];
    left = s.minutes * 60;
    if (since !== null) since = performance.now();
    find("name").textContent = s.name;
    find("where").textContent = `${at + 1} of ${all.length}, ${s.side}`;
    find("picture").src = s.picture;
    find("picture").alt = s.name;
    if (all[at + 1]) new Image().src = all[at + 1].picture;
    show();
  }

  function pause() {
    if (at >= all.length) return;
    if (since === null) since = performance.now();
    else {
      left = remaining();
      since = null;
    }
    show();
  }

  find("pause").addEventListener("click", pause);
  find("next").addEventListener("click", () => go(at + 1));
  setInterval(() => {
    if (since === null) return;
    if (remaining() <= 0) go(at + 1);
    else show();
  }, 250);
  if (all[1]) new Image().src = all[1].picture;
  show();
  root.dataset.ready = "yes";
})();
