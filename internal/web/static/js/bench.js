// The bench is a form that asks for itself. With this module a change asks for
// the fragment of the same address and swaps it in; the address follows, so
// that "back" is undo.
import { announce, keep } from "./page.js";
import { fragment } from "./fragment.js";

const root = document.getElementById("bench-root");
const load = fragment(root, shown);

function address(form) {
  const q = new URLSearchParams();
  for (const [name, value] of new FormData(form)) {
    if (value !== "") q.append(name, value);
  }
  if (!q.has("diet") && !q.has("ban") && !q.has("eater")) q.append("diet", ""); // nobody in particular, and not "as last time"
  return form.getAttribute("action") + "?" + q;
}

const nameOf = (d) => d.id || d.querySelector("summary")?.textContent;
let before = null; // the focus and the open parts, which an answer leaves as they were

function show(url, push) {
  before ??= { id: document.activeElement?.id, open: [...root.querySelectorAll("details[open]")].map(nameOf) };
  load(url, push);
}

function shown(url, push) {
  const { id, open } = before ?? { open: [] };
  before = null;
  for (const d of root.querySelectorAll("details")) {
    if (open.includes(nameOf(d))) d.open = true;
  }
  for (let n = id && document.getElementById(id)?.closest("details"); n; n = n.parentElement.closest("details")) n.open = true;
  if (id) document.getElementById(id)?.focus({ preventScroll: true });
  if (push) history.pushState(null, "", url);
  keep();
  root.dispatchEvent(new Event("shown"));
  const form = document.getElementById("bench");
  if (form?.dataset.announce) announce(form.dataset.announce, form.dataset.announce.includes("New here"));
  if (push && form?.getAttribute("action").endsWith("/adapt")) { // for whom it was, for the next recipe
    fetch("/last", { method: "POST", body: new URLSearchParams(new FormData(form)), keepalive: true }).catch(() => {});
  }
}

root.addEventListener("change", (e) => {
  const form = e.target.closest("form");
  if (form && form.id === "bench") show(address(form), true);
});
root.addEventListener("input", (e) => {
  if (e.target.type === "range" && e.target.form) { // what the slider says while it moves
    e.target.setAttribute("aria-valuetext", e.target.value + " per cent");
    root.querySelector(`output[for="${e.target.id}"]`).textContent = e.target.value + " %";
  }
});
root.addEventListener("submit", (e) => {
  if (e.submitter?.hasAttribute("formaction")) return; // keeping is an ordinary post
  e.preventDefault();
  show(address(e.target), true);
});
root.addEventListener("click", (e) => {
  const link = e.target.closest(".tabs a:not(.beside-link), .orders a, .tins a, a.pin, a.let-a, a.altitude-take");
  if (link && !e.metaKey && !e.ctrlKey) {
    e.preventDefault();
    show(link.getAttribute("href"), true);
  }
  if (e.target.closest("#back-step")) history.back();
  if (e.target.closest("#forward-step")) history.forward();
});
addEventListener("popstate", () => show(location.pathname + location.search, false));

// A focused or pointed entry lights its ribbon, and a block its entry.
function light(key) {
  for (const n of root.querySelectorAll(".lit")) n.classList.remove("lit");
  root.querySelector(".strips")?.classList.toggle("dim", Boolean(key));
  const line = document.getElementById("reason-line");
  if (!key) return;
  for (const n of root.querySelectorAll(`[data-key="${key}"]`)) n.classList.add("lit");
  const words = root.querySelector(`.entry[data-key="${key}"] .why`)?.textContent ?? root.querySelector(`.blk[data-key="${key}"] title`)?.textContent;
  if (line && words) line.textContent = words.trim();
}
for (const [on, off] of [["pointerover", "pointerout"], ["focusin", "focusout"]]) {
  root.addEventListener(on, (e) => {
    const at = e.target.closest("[data-key]");
    if (at) light(at.dataset.key);
  });
  root.addEventListener(off, (e) => {
    if (e.target.closest("[data-key]")) light("");
  });
}
root.addEventListener("click", (e) => {
  const block = e.target.closest(".blk");
  if (block) root.querySelector(`.entry[data-key="${block.dataset.key}"]`)?.scrollIntoView({ block: "center" });
});

// An amount is also dragged by its name, a gram to four pixels, or stepped with the
// arrow keys; letting go works it out.
let drag = null;
const amountOf = (el) => el.closest(".amount")?.querySelector("input");
const step = (field, by) => { field.value = Math.max(0, Math.round((parseFloat(field.value || field.placeholder) || 0) + by)); };
root.addEventListener("pointerdown", (e) => {
  const field = e.target.tagName === "LABEL" && amountOf(e.target);
  if (field) drag = { field, from: e.clientX, at: parseFloat(field.value || field.placeholder) || 0 };
});
addEventListener("pointermove", (e) => {
  if (drag && Math.abs(e.clientX - drag.from) > 3) {
    drag.moved = true;
    drag.field.value = Math.max(0, Math.round(drag.at + (e.clientX - drag.from) / 4));
  }
});
addEventListener("pointerup", () => {
  if (drag?.moved) drag.field.dispatchEvent(new Event("change", { bubbles: true }));
  drag = null;
});
root.addEventListener("keydown", (e) => {
  const by = { ArrowUp: 1, ArrowDown: -1 }[e.key];
  if (by && e.target.matches(".amount input")) {
    e.preventDefault();
    step(e.target, by);
  }
});
