// The stages' shares as they are typed: how many per cent of a hundred.
const form = document.querySelector("[data-shares]");
const says = document.querySelector("[data-shares-sum]");

function count() {
  const sum = [...form.querySelectorAll("[data-share]")].reduce((s, i) => s + (Number(i.value) || 0), 0);
  says.textContent = sum === 100 ? "100 %" : `${sum} % of 100`;
  says.classList.toggle("chalk", sum !== 100);
}

if (form && says) form.addEventListener("input", count);
