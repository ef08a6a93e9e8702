// Counts a meeting's clock from what the server last said. The server sends the whole state on every change; between, and
// while the line is down, the display goes on by the browser's own steady clock, and corrects itself at the next word.
"use strict";

(() => {
  let state = null;
  let heard = 0;
  let stream = null;

  const root = () => document.querySelector("[data-clock]");
  const put = (name, text) => {
    const el = root()?.querySelector(`[data-${name}]`);
    if (el && el.textContent !== text) el.textContent = text;
  };

  function connect() {
    const el = root();
    if (!el || (stream && stream.readyState !== EventSource.CLOSED)) return;
    stream = new EventSource(el.dataset.stream);
    stream.onmessage = (e) => {
      state = JSON.parse(e.data);
      heard = performance.now();
      put("line", "");
      ahead();
      draw();
    };
    stream.onerror = () => {
      put("line", "The line is down; the clock goes on by itself.");
      if (stream.readyState === EventSource.CLOSED) setTimeout(connect, 3000);
    };
  }

  const position = () => HarborCount.at(state, (performance.now() - heard) / 1000);

  function draw() {
    if (!state || !root()) return;
    const { index, pose, left } = position();
    if (!state.started) {
      put("name", state.items[0].name);
      put("what", "not begun yet");
      minutes(state.items[0].seconds);
      put("next", state.items[1] ? `${state.items[1].name}, ${span(state.items[1])}` : "");
      show(null, state.items.map((i) => posed(i, 0)).find((p) => p) || null);
      return;
    }
    if (index >= state.items.length) {
      document.querySelector(".run-now")?.classList.add("over");
      put("name", "Thank you");
      put("what", "the meeting is over");
      put("minutes", "0");
      put("next", "");
      show(null, null);
      return;
    }
    const item = state.items[index];
    put("name", title(item, pose));
    put("what", item.poses > 1 ? `${item.what}, ${item.before + pose + 1} of ${item.before + item.poses}` : item.what);
    minutes(left);
    const more = item.poses > 1 && pose < item.poses - 1;
    const next = state.items[index + 1];
    put("next", more ? title(item, pose + 1) : next ? `${next.name}, ${span(next)}` : "home");
    show(
      posed(item, pose),
      more
        ? posed(item, pose + 1)
        : state.items
            .slice(index + 1)
            .map((i) => posed(i, 0))
            .find((p) => p) || null,
    );
    look(item);
    const whole = item.poses > 1 ? item.poseSeconds : item.seconds;
    // Half way through a long stretch eyes and wrist want three paces back.
    const back = !item.rest && whole >= 15 * 60 && left <= whole / 2 && left > whole / 2 - 40;
    if (back) put("what", "stand back three paces and look");
    root().dispatchEvent(
      new CustomEvent("harbor:clock", { bubbles: true, detail: { index, pose, left, item, next, back, running: state.running } }),
    );
    plumb(item, item.poses > 1 ? item.poseSeconds : item.seconds, left, next);
  }

  const title = (item, pose) => (item.rest || !item.names.length ? item.name : item.names[Math.min(pose, item.names.length - 1)]);
  const amount = (s) => (s < 60 ? `${Math.round(s)} s` : `${+(s / 60).toFixed(1)} min`);
  const span = (item) => amount(item.poses > 1 ? item.poseSeconds : item.seconds);

  /** Whole minutes, rounded up; seconds only in the last, since a ticking number pulls eyes off the model. */
  function minutes(seconds) {
    const last = seconds < 60;
    const text = last ? String(Math.max(0, Math.ceil(seconds - 0.001))) : String(Math.ceil(seconds / 60 - 0.001));
    put("minutes", text);
    put("unit", last ? "s" : "min");
    root()
      .querySelector("[data-minutes]")
      .classList.toggle("three", text.length > 2);
  }

  /** The pose that is held, turned as it is, and beside "then" the next one. */
  function show(now, next) {
    picture("picture", now);
    picture("next-picture", next);
  }

  function picture(name, pose) {
    const img = root().querySelector(`[data-${name}]`);
    if (!img) return;
    img.hidden = !pose;
    if (!pose) return;
    const src = address(pose);
    if (img.getAttribute("src") !== src) {
      img.src = src;
      img.alt = pose.name;
    }
  }

  /** Fetches the pictures of the evening before they are wanted: a pose of thirty seconds can't wait for one. */
  const fetched = new Set();
  function ahead() {
    if (!root()?.querySelector("[data-picture]")) return;
    for (const item of state.items.slice(state.index))
      for (let n = 0; n < item.poseIds.length; n++) {
        const src = address(posed(item, n));
        if (fetched.has(src)) continue;
        fetched.add(src);
        new Image().src = src;
      }
  }

  const address = (pose) =>
    `${root().dataset.pictures}/${pose.id}?facing=${pose.facing}${document.documentElement.dataset.theme === "light" ? "&light=true" : ""}`;
  const posed = (item, n) =>
    !item || item.rest || !item.poseIds[n] ? null : { id: item.poseIds[n], facing: item.facings[n] || 0, name: item.names[n] };

  function look(item) {
    const bar = root().querySelector("[data-look]");
    if (!bar) return;
    bar.hidden = !item.look;
    if (!item.look) return;
    const on = bar.querySelector("[data-look-on]");
    on.style.width = `${item.look}%`;
    on.textContent = item.look === 50 ? "look half the time" : `look ${item.look} %`;
    on.nextElementSibling.textContent = item.look >= 90 ? "" : item.look === 50 ? "draw half" : "draw";
  }

  let drawnFor = "";
  function plumb(item, seconds, left, next) {
    const svg = root().querySelector("[data-plumb]");
    if (!svg) return;
    const total = Math.max(1, Math.ceil(seconds / 60));
    const foot = 620,
      top = 60,
      k = (foot - top) / total;
    const key = `${total}/${next?.name}`;
    if (key !== drawnFor) {
      drawnFor = key;
      let s = "";
      const every = total > 12 ? 5 : total > 5 ? 2 : 1;
      for (let m = 0; m <= total; m++) {
        const y = foot - m * k;
        const five = m % every === 0;
        s += `<line class="${five ? "plumb-five" : "plumb-tick"}" x1="74" x2="${five ? 100 : 86}" y1="${y}" y2="${y}"/>`;
        if (five && m > 0) s += `<text x="62" y="${y + 12}" text-anchor="end">${m}</text>`;
      }
      s += `<line class="plumb-base" x1="20" x2="236" y1="${foot}" y2="${foot}"/>`;
      s += `<line class="plumb-thread" data-thread x1="150" x2="150" y1="-60" y2="0"/><g data-bob><path class="bob-leaf" d="M0 0C5.5 3.5 7.5 7.5 6 11.5C5 14.5 2 17 0 21C-2 17-5 14.5-6 11.5C-7.5 7.5-5.5 3.5 0 0Z"/><path class="bob-rib" d="M0 0V16"/></g>`;
      s += `<text class="restword" x="128" y="${foot + 70}" text-anchor="middle"></text>`;
      svg.innerHTML = s;
      svg.querySelector(".restword").textContent = next ? (next.rest ? `${next.name.toLowerCase()}, ${amount(next.seconds)}` : "") : "";
    }
    const calm = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
    const y = foot - ((calm ? Math.ceil(left / 60) * 60 : left) / 60) * k;
    svg.querySelector("[data-bob]").setAttribute("transform", `translate(150 ${y - 84}) scale(4)`);
    svg.querySelector("[data-thread]").setAttribute("y2", y - 84);
  }

  connect();
  setInterval(draw, 250);
  document.addEventListener("htmx:afterSettle", () => {
    draw();
  });
})();
