// Keys of our own: a control says which with data-shortcut, and its tooltip names it. Single letters act outside of fields only, and can be
// switched off under "How you measure"; ? lists those of the page.

const on = () => document.body.dataset.keys !== "off";
const visible = (e) => e.checkVisibility?.({ visibilityProperty: true }) ?? true;
const controls = () => [...document.querySelectorAll("[data-shortcut]")].filter((e) => visible(e.closest("label") ?? e));
const wordsOf = (e) => e.dataset.shortcutWords ?? (e.getAttribute("aria-label") || e.textContent.trim().replace(/\s+/g, " ") || document.querySelector(`label[for="${e.id}"]`)?.textContent.trim() || "");

// entry is the change in hand: where the focus is, else the first.
const entry = () => document.activeElement?.closest?.(".entry") ?? document.querySelector(".entry");

function press(e) {
  if (e.matches("input[type=text], input[type=search], textarea, select")) {
    e.focus();
    e.select?.();
  } else {
    e.click();
  }
}

// acts are keys that are no single control: what they do, and where they hold.
const acts = [
  { key: "1–9", words: "the demands in their order", here: () => document.querySelector("#bench [name=diet]"), match: (k) => /^[1-9]$/.test(k), act: (k) => document.querySelectorAll("#bench [name=diet]")[k - 1]?.click() },
  { key: "o", words: "the next other way for the change in hand", here: () => document.querySelector(".entry .options input[type=radio]"), act: () => {
    const ways = [...(entry()?.querySelectorAll(".options input[type=radio]") ?? [])].filter((e) => !e.disabled);
    const at = ways.findIndex((e) => e.checked);
    if (ways.length < 2) return;
    const next = ways[(at + 1) % ways.length];
    const fold = next.closest("details");
    if (fold) fold.open = true; // what is hidden takes no focus
    next.focus();
    next.click();
  } },
  { key: "h", words: "hold its first amount, or release it", here: () => document.querySelector(".entry .amount input"), act: () => {
    const box = entry()?.querySelector(".amount input");
    if (!box) return;
    box.value = box.value ? "" : box.placeholder;
    box.dispatchEvent(new Event("change", { bubbles: true }));
  } },
  { key: "c", words: "grams or cups", here: () => true, act: async () => {
    const body = new URLSearchParams({ cups: document.body.dataset.cups === "yes" ? "no" : "yes" });
    await fetch("/settings", { method: "POST", body }).catch(() => {});
    location.reload();
  } },
  { key: ", .", words: "a minute earlier or later in the cut", here: () => document.getElementById("minute"), match: (k) => k === "," || k === ".", act: (k) => {
    const handle = document.getElementById("minute");
    handle.value = +handle.value + (k === "." ? 1 : -1);
    handle.dispatchEvent(new Event("input", { bubbles: true }));
  } },
];

function list() {
  const all = document.createElement("dialog");
  all.className = "keys";
  all.setAttribute("aria-label", "Keys on this page");
  const rows = controls().map((e) => [e.dataset.shortcut, wordsOf(e)]);
  for (const a of acts) if (a.here()) rows.push([a.key, a.words]);
  const dl = document.createElement("dl");
  for (const [key, words] of rows) {
    const dt = document.createElement("dt"), dd = document.createElement("dd");
    dt.append(Object.assign(document.createElement("kbd"), { textContent: key }));
    dd.textContent = words;
    dl.append(dt, dd);
  }
  const head = Object.assign(document.createElement("h2"), { textContent: "Keys on this page" });
  const note = Object.assign(document.createElement("p"), { textContent: on() ? "They act outside of fields. Switch them off under How you measure." : "They are switched off under How you measure." });
  const close = Object.assign(document.createElement("button"), { textContent: "Close", className: "btn-quiet", type: "button" });
  close.addEventListener("click", () => all.close());
  all.append(head, dl, note, close);
  all.addEventListener("close", () => all.remove());
  document.body.append(all);
  all.showModal();
}

document.addEventListener("keydown", (e) => {
  if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey || e.target.closest?.("input:not([type=checkbox], [type=radio], [type=range]), textarea, select, dialog, [contenteditable]")) return;
  if (e.key === "?") {
    e.preventDefault();
    list();
    return;
  }
  if (!on()) return;
  const act = acts.find((a) => a.here() && (a.match ? a.match(e.key) : a.key === e.key));
  const control = controls().find((c) => c.dataset.shortcut === e.key);
  if (!act && !control) return;
  e.preventDefault();
  if (control) press(control);
  else act.act(e.key);
});

function name() {
  if (!on()) return;
  for (const e of document.querySelectorAll("[data-shortcut]:not([data-named])")) {
    e.dataset.named = "";
    e.title = `${e.title || wordsOf(e)} (${e.dataset.shortcut})`;
  }
}
name();
document.getElementById("bench-root")?.addEventListener("shown", name);
