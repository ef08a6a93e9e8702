// The figure, or the head, turns under the hand: while it moves quick small views follow, one at a time; when it rests the full view and the
// numbers beside it come.
"use strict";

(() => {
  const root = document.querySelector("[data-pose]");
  if (!root) return;
  const image = root.querySelector("[data-view]");
  const state = { ...root.dataset };
  // A figure from a seat, unless the page says that it is a head.
  const keys = (state.keys || "body kind az d eye la le m g").split(" "),
    numbers = ["az", "d", "eye", "la", "le", "turn", "tilt"];
  const across = state.across || "az",
    upright = state.upright,
    [width, height] = (state.size || "480 720").split(" ").map(Number);
  for (const k of numbers) if (state[k] !== "" && state[k] !== undefined) state[k] = Number(state[k]);
  const edits = new Map(
    (state.edit || "")
      .split(",")
      .filter(Boolean)
      .map((e) => [e.slice(0, e.lastIndexOf(":")), Number(e.slice(e.lastIndexOf(":") + 1))]),
  );
  const dial = root.querySelector("[data-seat-dial]");
  let busy = false,
    again = false,
    restTimer = 0;

  function query(quick) {
    const q = new URLSearchParams();
    for (const k of keys) if (state[k] !== "" && state[k] !== undefined && !(k === "le" && state.la === "")) q.set(k, state[k]);
    if (edits.size) q.set("edit", [...edits].map(([k, v]) => `${k}:${v}`).join(","));
    if (quick) q.set("quick", "1");
    q.set("w", quick ? width / 2 : width);
    q.set("h", quick ? height / 2 : height);
    q.set("e", state.edition);
    return q.toString();
  }

  /** Loads a view before it is shown, so that the picture never blinks. */
  function show(quick) {
    return new Promise((done) => {
      const next = new Image();
      next.onload = () => {
        image.src = next.src;
        done(true);
      };
      next.onerror = () => done(false);
      next.src = `${state.src}?${query(quick)}`;
    });
  }

  async function follow() {
    if (busy) {
      again = true;
      return;
    }
    busy = true;
    do {
      again = false;
      await show(true);
    } while (again);
    busy = false;
  }

  let wanted = 0;
  async function rest() {
    const mine = ++wanted;
    history.replaceState(null, "", "?" + query(false));
    const [shown, text] = await Promise.all([
      show(false),
      fetch(`${state.readout}?${query(false)}`)
        .then((r) => (r.ok ? r.text() : null))
        .catch(() => null),
    ]);
    if (mine !== wanted) return;
    if (text) {
      const page = new DOMParser().parseFromString(text, "text/html");
      for (const part of page.querySelectorAll("[data-readout]"))
        root.ownerDocument.querySelectorAll(`[data-readout="${part.dataset.readout}"]`).forEach((to) => {
          if (to !== root) to.replaceChildren(...[...part.childNodes].map((n) => document.importNode(n, true)));
        });
      marks();
      root.dispatchEvent(new CustomEvent("harbor:readout", { detail: page }));
      // Notes that came anew are laid beside what they speak of.
      document.dispatchEvent(new CustomEvent("harbor:noted"));
    }
    root.dataset.rested = shown ? String(state[across]) : "failed";
    root.dispatchEvent(new CustomEvent("harbor:rested", { detail: { state, query: query(false) } }));
  }

  function changed(now) {
    delete root.dataset.rested;
    // What is kept is what stands now, however far behind the picture is.
    for (const s of document.querySelectorAll("[data-state]")) s.value = "?" + query(false);
    reflect();
    clearTimeout(restTimer);
    if (now) {
      rest();
      return;
    }
    follow();
    restTimer = setTimeout(rest, 260);
  }

  const signed = (n) => (n > 0 ? "+" : n < 0 ? "−" : "") + Math.abs(n);
  const wrap = (a) => {
    a = ((((a + 180) % 360) + 360) % 360) - 180;
    return Math.round(a * 10) / 10;
  };
  function side(a) {
    // Things have no left of their own: theirs is the one that is seen from the front.
    const whose = state.plain ? (a > 0 ? "the right" : "the left") : a > 0 ? "the figure's left" : "the figure's right",
      x = Math.abs(a);
    return x < 12
      ? "from the front"
      : x < 65
        ? `three-quarter, from ${whose}`
        : x < 115
          ? `${state.plain ? "" : "profile, "}from ${whose}`
          : x < 168
            ? `from behind, on ${whose}`
            : "from behind";
  }

  function reflect() {
    if (state.plain) {
      document.querySelector("[data-side]").textContent = side(state.az);
      image.alt = image.alt.split(",")[0] + ", " + side(state.az);
    }
    const la = state.la === "" ? wrap(state.az - 58) : state.la;
    if (dial) {
      dial.querySelector("[data-hand]").setAttribute("transform", `rotate(${-state.az} 88 88)`);
      dial.querySelector("[data-lamp]")?.setAttribute("transform", `rotate(${-la} 88 88)`);
      dial.setAttribute("aria-valuenow", Math.round(state.az));
      dial.setAttribute("aria-valuetext", side(state.az));
      document.querySelector("[data-side]").textContent = side(state.az);
      image.alt = image.alt.split(",")[0] + ", " + side(state.az);
    }
    for (const input of root.querySelectorAll("[data-of]")) {
      const key = input.dataset.of,
        value = key === "la" ? la : state[key];
      if (document.activeElement !== input) input.value = value;
      input.nextElementSibling.value =
        key === "d" || key === "eye"
          ? `${Math.round(value * 100) / 100} m`
          : `${key === "le" ? Math.round(value) : signed(Math.round(value))}°`;
    }
    for (const b of root.querySelectorAll("button[data-kind]")) b.setAttribute("aria-pressed", b.dataset.kind === state.kind);
    // Under the garment bones are drawn, and nothing else.
    for (const b of root.querySelectorAll('[data-undraped="True"]')) b.hidden = state.g === "1";
    root.querySelector("[data-mirror]")?.setAttribute("aria-pressed", state.m ? "true" : "false");
  }

  function marks() {
    const on = root.querySelector("[data-show-marks]")?.getAttribute("aria-pressed") === "true";
    root.classList.toggle("with-marks", on);
  }

  /** The seat goes all the way round; a head turns and tilts as far as a neck and the drawing allow. */
  function set(key, value) {
    state[key] = key === "az" ? wrap(value) : Math.round(Math.max(-state[key + "Most"], Math.min(state[key + "Most"], value)));
  }

  // Drag: half a degree a pixel, the near side follows the hand.
  let drag = null;
  const picture = root.querySelector("[data-turn]");
  picture.addEventListener("pointerdown", (e) => {
    if (e.button > 0) return;
    drag = { x: e.clientX, y: e.clientY, across: state[across], upright: state[upright] };
    picture.setPointerCapture(e.pointerId);
    e.preventDefault();
  });
  picture.addEventListener("pointermove", (e) => {
    if (!drag) return;
    set(across, drag.across + (across === "az" ? -0.5 : 0.5) * (e.clientX - drag.x));
    if (upright) set(upright, drag.upright + 0.3 * (e.clientY - drag.y));
    changed(false);
  });
  for (const end of ["pointerup", "pointercancel"])
    picture.addEventListener(end, () => {
      drag = null;
    });

  // The dial: the bob is where one sits.
  let turning = false;
  function aim(e) {
    const r = dial.getBoundingClientRect();
    state.az = wrap(Math.round((Math.atan2(e.clientX - r.left - r.width / 2, e.clientY - r.top - r.height / 2) * 180) / Math.PI));
    changed(false);
  }
  dial?.addEventListener("pointerdown", (e) => {
    turning = true;
    dial.setPointerCapture(e.pointerId);
    aim(e);
  });
  dial?.addEventListener("pointermove", (e) => {
    if (turning) aim(e);
  });
  for (const end of ["pointerup", "pointercancel"])
    dial?.addEventListener(end, () => {
      turning = false;
    });

  document.addEventListener("keydown", (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.target.closest("input, textarea, select")) return;
    const [key, step] = { ArrowLeft: [across, -5], ArrowRight: [across, 5], ArrowUp: [upright, -5], ArrowDown: [upright, 5] }[e.key] || [];
    if (!key) return;
    e.preventDefault();
    set(key, state[key] + step);
    changed(false);
  });

  root.addEventListener("input", (e) => {
    const key = e.target.dataset.of;
    if (!key) return;
    state[key] = Number(e.target.value);
    if (key === "le" && state.la === "") state.la = wrap(state.az - 58);
    changed(false);
  });
  root.addEventListener("change", (e) => {
    if (e.target.dataset.ofSelect) {
      state[e.target.dataset.ofSelect] = e.target.value;
      changed(true);
    }
    if (e.target.dataset.ofCheck) {
      state[e.target.dataset.ofCheck] = e.target.checked ? "1" : "";
      const kind = root.querySelector(`button[data-kind="${CSS.escape(state.kind)}"]`);
      if (state.g === "1" && kind?.dataset.undraped === "True") state.kind = "bones";
      changed(true);
    }
  });
  document.addEventListener("input", (e) => {
    const key = e.target.dataset.handle;
    if (!key) return;
    edits.set(key, Number(e.target.value));
    // The same joint may have two sliders on the page.
    for (const other of document.querySelectorAll("[data-handle]"))
      if (other.dataset.handle === key) {
        other.value = e.target.value;
        other.nextElementSibling.value = signed(Number(e.target.value));
      }
    changed(false);
  });
  root.addEventListener("click", (e) => {
    const kind = e.target.closest("button[data-kind]");
    if (kind) {
      state.kind = kind.dataset.kind;
      changed(true);
    }
    if (e.target.closest("[data-mirror]")) {
      state.m = state.m ? "" : "1";
      changed(true);
    }
    const show = e.target.closest("[data-show-marks]");
    if (show) {
      show.setAttribute("aria-pressed", show.getAttribute("aria-pressed") !== "true");
      marks();
    }
  });
  // What else stands on the page may change the view too.
  root.addEventListener("harbor:set", (e) => {
    Object.assign(state, e.detail.values);
    changed(e.detail.now);
  });
  root.dataset.ready = "yes";
})();
