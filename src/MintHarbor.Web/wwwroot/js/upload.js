// Sends the form with its photograph and shows how far it has come; without script the form is sent as it is.
"use strict";

(() => {
  const form = document.querySelector("form[data-upload]");
  if (!form) return;
  const bar = form.querySelector("progress");
  const says = form.querySelector("[data-upload-says]");
  const file = form.querySelector("input[type=file]");
  const most = Number(form.dataset.most);

  file.addEventListener("change", () => {
    const f = file.files[0];
    says.textContent = f && f.size > most ? `The file has ${(f.size / 1048576).toFixed(1)} MB. Accepted: ${form.dataset.accepted}.` : "";
  });
  form.addEventListener("submit", (e) => {
    if (!file.files.length) return;
    e.preventDefault();
    const request = new XMLHttpRequest();
    request.open("POST", form.action);
    request.setRequestHeader("HX-Request", "true");
    bar.hidden = false;
    form.querySelector("button:not([type=button])").disabled = true;
    request.upload.onprogress = (p) => {
      bar.value = p.loaded / p.total;
      says.textContent = p.loaded < p.total ? `step 1 of 3: sending, ${Math.round((100 * p.loaded) / p.total)} %` : "step 2 of 3: looking for the sheet";
    };
    const fail = (text) => {
      bar.hidden = true;
      form.querySelector("button:not([type=button])").disabled = false;
      says.textContent = text;
    };
    request.onerror = () => fail("The line broke off. Nothing you typed is lost; send it again.");
    request.onload = () => {
      const to = request.getResponseHeader("X-Go");
      if (request.status < 300 && to) {
        form.dispatchEvent(new Event("harbor:sent"));
        says.textContent = "step 3 of 3: laying it flat";
        location.assign(to);
      } else fail(request.status === 413 ? `Too large. Accepted: ${form.dataset.accepted}.` : request.getResponseHeader("Content-Type")?.startsWith("text/plain") ? request.responseText : "It could not be taken. Try again.");
    };
    request.send(new FormData(form));
  });
})();
