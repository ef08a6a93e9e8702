// The display on the wall: chime, warning, full screen, dim or light. What is chosen stays with this screen.
"use strict";

(() => {
  const kept = (key, otherwise) => {
    try {
      return localStorage.getItem(`room:${key}`) || otherwise;
    } catch {
      return otherwise;
    }
  };
  const keep = (key, value) => {
    try {
      localStorage.setItem(`room:${key}`, value);
    } catch {
      /* it holds until the page is left */
    }
  };
  const chimes = ["off", "soft", "clear"];
  const warnings = ["0", "60", "120", "300"];
  let chime = chimes.includes(kept("chime", "off")) ? kept("chime", "off") : "off";
  let warn = warnings.includes(kept("warn", "0")) ? kept("warn", "0") : "0";
  let audio = null;
  let at = null;
  let warned = null;

  /** A struck bell: two partials that die away; synthesised, so that nothing is fetched. */
  function ring(strong) {
    if (chime === "off") return;
    audio = audio || new AudioContext();
    const now = audio.currentTime;
    const loud = (chime === "clear" ? 0.32 : 0.1) * (strong ? 1 : 0.6);
    for (const [ratio, part, lasts] of [
      [1, 1, 1.8],
      [2.76, 0.45, 0.9],
      [5.4, 0.2, 0.4],
    ]) {
      const tone = audio.createOscillator();
      const level = audio.createGain();
      tone.frequency.value = (strong ? 523.25 : 392) * ratio;
      level.gain.setValueAtTime(0, now);
      level.gain.linearRampToValueAtTime(loud * part, now + 0.012);
      level.gain.exponentialRampToValueAtTime(0.0001, now + lasts);
      tone.connect(level).connect(audio.destination);
      tone.start(now);
      tone.stop(now + lasts);
    }
    document.querySelector("[data-clock]").dataset.rang = String(Number(document.querySelector("[data-clock]").dataset.rang || 0) + 1);
  }

  function say() {
    document.querySelector("[data-chime]").textContent = `chime ${chime}`;
    document.querySelector("[data-warn]").textContent = warn === "0" ? "no warning" : `warning at ${Number(warn) / 60} min`;
    document.querySelector("[data-light]").textContent = document.documentElement.dataset.theme === "dim" ? "light" : "dim";
  }

  // Bones for a minute: of the pose that is held, in a rest of the one that was, before the first of the next.
  const boneSeconds = 60;
  const shown = document.querySelector("[data-picture]"),
    bones = document.querySelector("[data-bones-picture]"),
    button = document.querySelector("[data-bones]");
  let held = "";
  let boneTimer = 0;

  function showBones(on) {
    clearTimeout(boneTimer);
    const src = on && (held || document.querySelector("[data-next-picture]").src);
    document.querySelector("[data-clock]").classList.toggle("with-bones", Boolean(src));
    button.setAttribute("aria-pressed", src ? "true" : "false");
    bones.hidden = !src;
    if (!src) return;
    const wanted = new URL(src);
    wanted.searchParams.set("bones", "true");
    if (bones.src !== wanted.href) bones.src = wanted.href;
    bones.alt = "the bones of the pose";
    boneTimer = setTimeout(() => showBones(false), boneSeconds * 1000);
  }

  document.addEventListener("click", (e) => {
    if (e.target.closest("[data-bones]")) {
      showBones(button.getAttribute("aria-pressed") !== "true");
    } else if (e.target.closest("[data-chime]")) {
      chime = chimes[(chimes.indexOf(chime) + 1) % chimes.length];
      keep("chime", chime);
      ring(true);
    } else if (e.target.closest("[data-warn]")) {
      warn = warnings[(warnings.indexOf(warn) + 1) % warnings.length];
      keep("warn", warn);
    } else if (e.target.closest("[data-light]")) {
      const html = document.documentElement;
      html.dataset.theme = html.dataset.theme === "dim" ? "light" : "dim";
      keep("theme", html.dataset.theme);
    } else if (e.target.closest("[data-full]")) {
      if (document.fullscreenElement) document.exitFullscreen();
      else document.documentElement.requestFullscreen?.();
    }
    say();
  });
  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return;
    document.querySelector(`.room-tools [data-key="${CSS.escape(e.key)}"]`)?.click();
  });

  document.addEventListener("harbor:clock", (e) => {
    const { index, pose, left, item, next, running } = e.detail;
    const here = `${index}/${pose}`;
    if (at !== null && at !== here && running) ring(true);
    if (!shown.hidden && shown.src !== held) {
      held = shown.src;
      showBones(false);
    }
    at = here;
    const close =
      warn !== "0" && left <= Number(warn) && left > 0.5 && (item.poses > 1 ? item.poseSeconds : item.seconds) > Number(warn) + 30;
    const root = document.querySelector("[data-clock]");
    root.classList.toggle("warned", close);
    if (close && warned !== here) {
      warned = here;
      if (running) ring(false);
    }
    // The model's cue: a rest comes next.
    root.classList.toggle("rest-next", !item.rest && Boolean(next?.rest) && left <= 60);
  });

  if (["dim", "light"].includes(kept("theme", ""))) document.documentElement.dataset.theme = kept("theme", "dim");
  say();
})();
