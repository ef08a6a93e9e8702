// Sends each chosen file on its own, one after another, and shows how far each has come: what fails is named and can be tried
// again alone, what arrived stays. Every file carries a key, so that sending it twice keeps it once. Without script the form
// is sent as it is.
"use strict";

(() => {
  const form = document.querySelector("form[data-upload]");
  if (!form) return;
  const list = form.querySelector("[data-files]");
  const says = form.querySelector("[data-upload-says]");
  const chooser = form.querySelector("input[type=file]");
  const button = form.querySelector("button:not([type=button])");
  const [most, mostInSet] = [Number(form.dataset.most), Number(form.dataset.setMost)];
  let files = [];
  let set = null;

  // On a studio's own plain line the browser offers no ready-made one.
  const newKey = () =>
    crypto.randomUUID?.() ??
    "10000000-1000-4000-8000-100000000000".replace(/[018]/g, (c) =>
      (Number(c) ^ (crypto.getRandomValues(new Uint8Array(1))[0] & (15 >> (Number(c) / 4)))).toString(16),
    );

  const row = (f) => {
    const li = document.createElement("li");
    const name = document.createElement("span");
    name.className = "name";
    name.textContent = f.file.name;
    const bar = Object.assign(document.createElement("progress"), { className: "progress", max: 1, value: 0, hidden: true });
    bar.setAttribute("aria-label", `Sending ${f.file.name}`);
    const state = document.createElement("span");
    state.className = "state lead";
    state.setAttribute("role", "status");
    const again = Object.assign(document.createElement("button"), {
      type: "button",
      className: "quiet",
      textContent: "try again",
      hidden: true,
    });
    again.addEventListener("click", () => run([f]));
    li.append(name, bar, state, again);
    return Object.assign(f, { li, bar, state, again });
  };

  chooser.addEventListener("change", () => {
    // Several of an evening are laid in the order they were taken.
    files = [...chooser.files]
      .sort((a, b) => a.lastModified - b.lastModified || a.name.localeCompare(b.name))
      .slice(0, mostInSet)
      .map((file) => row({ file, key: newKey(), done: null }));
    set = files.length > 1 ? newKey() : null;
    list.replaceChildren(...files.map((f) => f.li));
    says.textContent = chooser.files.length > mostInSet ? `${chooser.files.length} files; the first ${mostInSet} by time are taken.` : "";
    for (const f of files)
      if (f.file.size > most) f.state.textContent = `has ${(f.file.size / 1048576).toFixed(1)} MB. Accepted: ${form.dataset.accepted}.`;
    button.textContent = files.length > 1 ? `Send all ${files.length}` : "Send it";
  });

  function send(f) {
    return new Promise((resolve) => {
      const data = new FormData(form);
      data.delete("Form.Photo");
      data.append("Form.Photo", f.file, f.file.name);
      data.set("Form.Key", f.key);
      if (set) {
        data.append("Form.Set", set);
        data.append("Form.SetAt", String(files.indexOf(f) + 1));
      }
      const request = new XMLHttpRequest();
      request.open("POST", form.action);
      request.setRequestHeader("HX-Request", "true");
      [f.bar.hidden, f.again.hidden] = [false, true];
      request.upload.onprogress = (p) => {
        f.bar.value = p.loaded / p.total;
        f.state.textContent =
          p.loaded < p.total
            ? `step 1 of 3: sending, ${Math.round((100 * p.loaded) / p.total)} %`
            : "step 2 of 3: looking for the sheet, laying it flat";
      };
      const fail = (text) => {
        [f.bar.hidden, f.again.hidden] = [true, false];
        f.state.textContent = text;
        f.state.className = "state chalk";
        resolve(false);
      };
      request.onerror = () => fail("The line broke off. Nothing you typed is lost; try again.");
      request.onload = () => {
        const to = request.getResponseHeader("X-Go");
        if (request.status < 300 && to) {
          [f.done, f.bar.hidden] = [to, true];
          f.state.textContent = "step 3 of 3: there";
          f.state.className = "state deep";
          resolve(true);
        } else
          fail(
            request.status === 413
              ? `Too large. Accepted: ${form.dataset.accepted}.`
              : request.getResponseHeader("Content-Type")?.startsWith("text/plain")
                ? request.responseText
                : "It could not be taken. Try again.",
          );
      };
      request.send(data);
    });
  }

  // A place of the page that stands is no other page: it is asked for anew.
  function go(to) {
    const there = new URL(to, location.href);
    location.assign(there);
    if (there.pathname + there.search === location.pathname + location.search) location.reload();
  }

  async function run(some) {
    button.disabled = true;
    for (const f of some) if (!f.done) await send(f);
    button.disabled = false;
    const there = files.filter((f) => f.done);
    if (there.length === files.length) {
      form.dispatchEvent(new Event("harbor:sent"));
      go(there[0].done);
      return;
    }
    says.textContent = files.length > 1 ? `${there.length} of ${files.length} are there. ` : "";
    if (there.length) {
      const on = document.createElement("a");
      on.href = there[0].done;
      on.textContent = "Go on without the rest";
      says.append(on);
    }
    button.textContent = there.length ? "Try the rest again" : "Send it again";
  }

  form.addEventListener("submit", (e) => {
    if (!files.length) return;
    e.preventDefault();
    run(files);
  });
})();
