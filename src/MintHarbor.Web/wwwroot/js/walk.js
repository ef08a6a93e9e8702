// The walk round the room: every note is put into the browser's own store first, then sent; what can't be sent waits there. Each has a
// key of its own, so that sending it again is harmless.
"use strict";

(() => {
  const form = document.querySelector("[data-walk]");
  if (!form) return;
  let sending = false;

  async function list() {
    const waiting = await waitingNotes();
    const ul = document.querySelector("[data-walk-queue]");
    ul.replaceChildren(
      ...(waiting.length
        ? waiting.map((w) => {
            const li = document.createElement("li");
            li.textContent = `${w.says}${w.problem ? `: ${w.problem}` : ""}`;
            li.classList.toggle("chalk", Boolean(w.problem));
            return li;
          })
        : [Object.assign(document.createElement("li"), { className: "lead", textContent: "nothing" })]),
    );
    document.querySelector("[data-walk-line]").textContent = waiting.length ? `${waiting.length} still to be sent` : "all sent";
  }

  async function send() {
    if (sending) return;
    sending = true;
    try {
      for (const note of await waitingNotes()) {
        const body = new FormData();
        for (const [k, v] of Object.entries(note.fields)) body.append(k, v);
        if (note.photo) body.append("photo", note.photo, "sheet.jpg");
        let answer;
        try {
          answer = await fetch(note.to, {
            method: "POST",
            body,
            headers: { "X-Queued": "1", RequestVerificationToken: token() },
            redirect: "manual",
          });
        } catch {
          break;
        }
        if (answer.ok) await inWalkStore("readwrite", (s) => s.delete(note.key));
        else if (answer.status >= 400 && answer.status < 500 && answer.status !== 408 && answer.status !== 429) {
          // The server won't have it: it stays here and says why, so that nothing said is lost.
          note.problem =
            answer.status === 400
              ? (await answer.text()).slice(0, 160)
              : `sign in again as ${document.querySelector(".who b")?.innerText || "who said it"}`;
          await inWalkStore("readwrite", (s) => s.put(note));
        } else break;
      }
    } finally {
      sending = false;
      await list();
    }
  }

  const token = () => JSON.parse(document.body.getAttribute("hx-headers")).RequestVerificationToken;
  const chosen = (name) => form.querySelector(`[name=${name}]:checked`);

  form.addEventListener("submit", async (e) => {
    e.preventDefault();
    const [student, fault] = [chosen("student"), chosen("fault")];
    const photo = form.elements.photo.files[0];
    const text = form.elements.text.value.trim();
    const said = form.querySelector("[data-walk-said]");
    if (!fault && !text && !photo) {
      said.textContent = "Choose a fault, say a line or photograph the sheet.";
      return;
    }
    const key = crypto.randomUUID();
    const words = [student?.parentElement.textContent.trim(), fault?.parentElement.textContent.trim(), text].filter(Boolean).join(", ");
    const note = {
      key,
      author: person,
      to: form.dataset.walk,
      says: words || "a photograph",
      photo: photo || null,
      fields: {
        key,
        author: person,
        student: student?.value || "",
        fault: fault?.value || "",
        place: form.elements.place.value.trim(),
        text,
        shared: String(form.elements.shared.checked),
        at: String(Date.now()),
      },
    };
    try {
      await inWalkStore("readwrite", (s) => s.put(note));
    } catch {
      said.textContent = "This browser keeps nothing; the note was not taken. Free some space and press again.";
      return;
    }
    for (const choice of form.querySelectorAll("input[type=radio], input[type=checkbox]")) choice.checked = false;
    for (const name of ["place", "text", "photo"]) form.elements[name].value = "";
    form.dispatchEvent(new Event("harbor:sent"));
    find("");
    said.textContent = `Kept: ${note.says}`;
    await list();
    await send();
  });

  // The place that goes with a fault is put in, to be written over.
  form.addEventListener("change", (e) => {
    if (e.target.name === "fault" && (!form.elements.place.value || form.elements.place.dataset.given)) {
      form.elements.place.value = e.target.dataset.where || "";
      form.elements.place.dataset.given = "1";
    }
    if (e.target.name === "place") delete form.elements.place.dataset.given;
  });

  function find(letters) {
    const words = letters.trim().toLowerCase();
    const labels = [...form.querySelectorAll(".walk-faults label")];
    labels.forEach((l, n) => {
      l.hidden = words ? !l.dataset.words.includes(words) : n >= 12;
    });
    if (!words) form.querySelector("[data-walk-find]").value = "";
  }
  form.querySelector("[data-walk-find]").addEventListener("input", (e) => find(e.target.value));

  window.addEventListener("online", send);
  document.addEventListener("visibilitychange", () => {
    if (!document.hidden) send();
  });
  setInterval(send, 10000);
  list().then(send);
  if ("serviceWorker" in navigator)
    navigator.serviceWorker.register("/walk-worker.js").catch(() => {
      /* without it the page needs the line to open */
    });
})();
