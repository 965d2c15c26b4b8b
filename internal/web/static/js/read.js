// The Read screen: pointing at one side lights the other, grams follow what is
// typed, Escape restores a row.
import "./page.js";

const lit = (line, on) => {
  for (const n of document.querySelectorAll(`[data-line="${line}"]`)) n.classList.toggle("lit", on);
};
for (const [name, on] of [["pointerover", true], ["pointerout", false], ["focusin", true], ["focusout", false]]) {
  document.addEventListener(name, (e) => {
    const at = e.target.closest?.("[data-line], [data-lines]");
    if (at?.dataset.line) lit(at.dataset.line, on);
    for (const line of at?.dataset.lines?.split(" ") ?? []) lit(line, on); // a step lights what it uses
  });
}

document.querySelector(".source")?.addEventListener("click", (e) => {
  const mark = e.target.closest("mark[data-line]");
  const row = mark && document.querySelector(`.row-line[data-line="${mark.dataset.line}"] details`);
  if (row) {
    row.open = true;
    row.querySelector("input[name=amount]")?.focus();
  }
});

if (location.hash.startsWith("#line-")) { // where a line was settled, the next letter goes on
  const row = document.getElementById(location.hash.slice(1));
  (row?.querySelector("summary") ?? row)?.focus({ preventScroll: true });
  row?.scrollIntoView({ block: "center" });
}

let timer;
document.addEventListener("input", (e) => {
  const form = e.target.closest("form.fix");
  if (!form) return;
  clearTimeout(timer);
  const live = form.querySelector(".live");
  live.textContent = ""; // the old grams are not those of what is typed
  timer = setTimeout(async () => {
    const q = new URLSearchParams({ amount: form.amount.value, unit: form.unit.value, what: form.what.value });
    const at = String(q);
    live.dataset.asked = at;
    let words;
    try {
      const res = await fetch("/weigh?" + q);
      if (!res.ok) throw new Error(res.status);
      words = await res.text();
    } catch {
      words = "Couldn’t be weighed just now; what you typed is kept.";
    }
    if (live.dataset.asked === at) live.textContent = words; // and not that of an earlier letter
  }, 150);
});
document.addEventListener("keydown", (e) => {
  const form = e.target.closest?.("form.fix");
  if (form && e.key === "Escape") {
    form.reset();
    form.querySelector(".live").textContent = "";
    const details = form.closest("details");
    details.open = false;
    details.querySelector("summary").focus();
  }
});
