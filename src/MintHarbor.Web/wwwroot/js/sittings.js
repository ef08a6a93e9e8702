// Sittings that were drawn and not sent yet: they wait in this browser under their person's name and go out once, when the line is there.
"use strict";

const sittings = {
  key: `${mine}sittings`,
  busy: false,
  all: () => shelf.get(`${mine}sittings`) || {},

  /** Kept first, then sent. */
  add(to, fields) {
    const key = crypto.randomUUID();
    shelf.set(this.key, {
      ...this.all(),
      [key]: { said: JSON.stringify({ ...fields, key, author: person, at: Date.now() }), over: "", to },
    });
    return this.send();
  },

  /** What the server won't have stays and says why. */
  async send() {
    if (this.busy) return null;
    this.busy = true;
    let problem = "";
    try {
      for (const [key, waits] of Object.entries(this.all())) {
        const body = new FormData();
        for (const [k, v] of Object.entries(JSON.parse(waits.said))) if (v !== null) body.append(k, v);
        const token = JSON.parse(document.body.getAttribute("hx-headers")).RequestVerificationToken;
        let answer;
        try {
          answer = await fetch(waits.to, {
            method: "POST",
            body,
            redirect: "manual",
            headers: { "X-Queued": "1", RequestVerificationToken: token },
          });
        } catch {
          problem = "kept here; sent when the line is back";
          break;
        }
        if (answer.ok) {
          const left = this.all();
          delete left[key];
          if (Object.keys(left).length) shelf.set(this.key, left);
          else shelf.drop(this.key);
        } else {
          problem = answer.status === 400 ? (await answer.text()).slice(0, 160) : "kept here; sign in again, and it is sent";
          if (answer.status >= 500 || answer.status === 408 || answer.status === 429) problem = "kept here; sent when the server is back";
        }
      }
    } finally {
      this.busy = false;
    }
    const waiting = Object.keys(this.all()).length;
    const says = waiting ? problem || "still to be sent" : "on record";
    for (const el of document.querySelectorAll("[data-sent]")) el.textContent = waiting || el.dataset.said ? `This sitting: ${says}.` : "";
    if (waiting) setTimeout(() => this.send(), 5000);
    return waiting;
  },
};
window.addEventListener("online", () => sittings.send());
if (Object.keys(sittings.all()).length) sittings.send();
