// The practice clock: whole minutes while there is time, seconds only in the last, so that the eye stays on the subject. It runs without the line, goes on
// where it was when the page is opened again, and stops where the device slept.
"use strict";

(() => {
  const root = document.querySelector("[data-home]");
  if (!root) return;
  const all = JSON.parse(root.dataset.sittings);
  const find = (name) => root.querySelector(`[data-${name}]`);
  const kept = `clock:${person}:${location.search}`;
  const SLEPT = 90; // seconds without a tick: nobody drew by this clock
  const look = Number(root.dataset.look) / 100;
  let at = 0,
    left = all[0].seconds,
    since = null,
    ticked = 0,
    drawn = [], // {seconds, drawn, plan, taught} of those that are over
    over = false,
    chime = true,
    sound = null;

  const now = () => Date.now() / 1000;
  const remaining = () => Math.max(0, left - (since === null ? 0 : now() - since));
  const fields = { plan: find("plan"), taught: find("taught") };

  function keep() {
    try {
      sessionStorage.setItem(
        kept,
        JSON.stringify({ at, left: remaining(), drawn, over, plan: fields.plan.value, taught: fields.taught.value }),
      );
    } catch {
      // Then reloading begins the set anew.
    }
  }

  function show() {
    const seconds = remaining(),
      last = seconds < 60;
    find("left").textContent = over ? "" : last ? Math.ceil(seconds) : Math.ceil(seconds / 60);
    find("unit").textContent = over ? "" : last ? "s" : "min";
    find("pause").textContent = since !== null ? "Pause" : over || seconds === all[at].seconds ? "Begin" : "Go on";
    bar(over ? 1 : 1 - seconds / all[at].seconds);
    find("plan-field").hidden = over || since !== null;
    find("taught-field").hidden = drawn.length === 0 || (since !== null && !over);
  }

  /** The share of the time that is looking, and how much of it has gone. */
  function bar(gone) {
    const svg = find("bar").querySelector("svg");
    svg.querySelector(".look-gone").setAttribute("width", (gone * 320).toFixed(1));
  }
  find("bar").innerHTML =
    `<svg viewBox="0 0 320 14" preserveAspectRatio="none"><rect class="look-share" width="${320 * look}" height="10" y="2"/>` +
    `<rect class="look-rest" x="${320 * look}" width="${320 - 320 * look}" height="10" y="2"/><rect class="look-gone" width="0" height="3" y="11"/></svg>`;

  function carried() {
    const line = find("carried-line");
    const said = drawn.length ? drawn[drawn.length - 1].taught : root.dataset.carried;
    line.textContent = said ? `Last: ${said}` : "";
    line.hidden = !said;
  }

  function ring() {
    if (!chime) return;
    try {
      sound ??= new AudioContext();
      for (const [n, pitch] of [660, 880].entries()) {
        const [tone, level] = [sound.createOscillator(), sound.createGain()];
        const from = sound.currentTime + n * 0.18;
        tone.frequency.value = pitch;
        level.gain.setValueAtTime(0.12, from);
        level.gain.exponentialRampToValueAtTime(0.001, from + 0.7);
        tone.connect(level).connect(sound.destination);
        tone.start(from);
        tone.stop(from + 0.7);
      }
    } catch {
      // A device without sound still shows the time.
    }
  }

  function open(n) {
    at = n;
    left = all[n].seconds;
    const s = all[n];
    find("name").textContent = s.name;
    find("where").textContent = `${n + 1} of ${all.length}, ${s.side}`;
    const picture = find("picture");
    if (picture) [picture.src, picture.alt] = [s.picture, s.name];
    if (all[n + 1]?.picture) new Image().src = all[n + 1].picture;
  }

  /** Ends the drawing that runs; the next begins by itself only where it is to. */
  function next() {
    if (over) return;
    const s = all[at];
    if (drawn.length) drawn[drawn.length - 1].taught = fields.taught.value.trim();
    drawn.push({ seconds: s.seconds, drawn: Math.round(s.seconds - remaining()), plan: fields.plan.value.trim(), taught: "" });
    fields.plan.value = fields.taught.value = "";
    const goes = root.dataset.go === "on" && since !== null;
    since = null;
    if (at + 1 >= all.length) return end();
    open(at + 1);
    if (goes) [since, ticked] = [now(), now()];
    carried();
    keep();
    show();
  }

  function end() {
    over = true;
    find("name").textContent = "That was the set";
    find("where").textContent = "Stand back, turn the sheets upside down, choose the one to ask about.";
    find("next").disabled = true;
    find("pause").textContent = "Keep it";
    carried();
    keep();
    show();
    find("pause").textContent = "Keep it";
  }

  /** Sent once: what the last one taught is said before. */
  async function send() {
    find("pause").disabled = true;
    drawn[drawn.length - 1].taught = fields.taught.value.trim();
    sessionStorage.removeItem(kept);
    find("taught-field").hidden = true;
    find("sent").dataset.said = "yes";
    if (!root.dataset.to) {
      find("sent").textContent = "Staff keep no record of their own practice.";
      return;
    }
    await sittings.add(root.dataset.to, {
      log: JSON.stringify({ exercise: root.dataset.exercise || null, subject: root.dataset.subject, drawings: drawn }),
      assignment: root.dataset.assignment || null,
    });
  }

  function pause() {
    if (over) return void send();
    if (since === null) {
      if (drawn.length) drawn[drawn.length - 1].taught = fields.taught.value.trim() || drawn[drawn.length - 1].taught;
      [since, ticked] = [now(), now()];
      carried();
      document.activeElement?.blur?.();
      stayAwake();
    } else {
      left = remaining();
      since = null;
    }
    keep();
    show();
  }

  /** The screen stays on while the clock runs, where the browser can. */
  let awake = null;
  async function stayAwake() {
    try {
      awake ??= await navigator.wakeLock?.request("screen");
      awake?.addEventListener("release", () => (awake = null));
    } catch {
      awake = null;
    }
  }

  find("pause").addEventListener("click", pause);
  find("next").addEventListener("click", next);
  find("chime").addEventListener("click", (e) => {
    chime = !chime;
    e.target.setAttribute("aria-pressed", chime);
    e.target.textContent = chime ? "Chime" : "Silent";
  });
  find("full").addEventListener("click", async (e) => {
    try {
      await (document.fullscreenElement ? document.exitFullscreen() : root.requestFullscreen());
    } catch {
      e.target.disabled = true;
    }
    e.target.setAttribute("aria-pressed", Boolean(document.fullscreenElement));
  });
  for (const f of Object.values(fields)) f.addEventListener("input", keep);
  setInterval(() => {
    if (since === null) return;
    const gap = now() - ticked;
    if (gap > SLEPT || gap < -1) {
      // Asleep, or the device's clock was set: the time of the last tick counts.
      left = Math.max(0, left - Math.max(0, ticked - since));
      since = null;
      find("where").textContent = "The device slept; the clock stopped with it.";
      show();
      return;
    }
    ticked = now();
    if (remaining() <= 0) {
      ring();
      next();
    } else show();
    if (Math.round(now()) % 5 === 0) keep();
  }, 250);

  const before = JSON.parse(sessionStorage.getItem(kept) || "null");
  if (before) {
    drawn = before.drawn;
    [fields.plan.value, fields.taught.value] = [before.plan, before.taught];
    if (before.over) end();
    else {
      open(before.at);
      left = before.left;
    }
  } else if (all[1]?.picture) new Image().src = all[1].picture;
  carried();
  show();
  if (over) find("pause").textContent = "Keep it";
  root.dataset.ready = "yes";
})();
