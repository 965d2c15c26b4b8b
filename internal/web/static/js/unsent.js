// What is typed into a form and not sent is not lost: another form's button of the same page takes it along, or it is put
// back where it stood and said. Leaving with something typed asks once.

const at = "typed:" + location.pathname;
const forms = () => [...document.querySelectorAll("form[method=post]")].filter((f) => !f.closest("[data-passing]"));
const boxes = (form) => [...form.elements].filter((e) => e.name && !["hidden", "file", "submit", "button", "password"].includes(e.type));

function changed(e) {
  if (e.type === "checkbox" || e.type === "radio") return e.checked !== e.defaultChecked;
  if (e.tagName !== "SELECT") return e.value !== e.defaultValue;
  const first = [...e.options].findIndex((o) => o.defaultSelected);
  return e.selectedIndex !== Math.max(0, first);
}

// dirty reports whether something stands in a form that the page did not come with.
export const dirty = (form) => boxes(form).some(changed);

// name tells one form of a page from the others, on this page and when it comes again.
function name(form) {
  const fixed = [...form.elements].filter((e) => e.type === "hidden" && ["do", "line", "task", "what"].includes(e.name)).map((e) => e.value);
  return [form.getAttribute("action"), ...fixed].join(" ");
}

let leaving = false; // by a form's own button

function stash(but) {
  const kept = forms().filter((f) => f !== but && dirty(f)).map((f) => ({ form: name(f), typed: boxes(f).filter(changed).map((e) => [e.name, e.value, e.checked]) }));
  if (kept.length) sessionStorage.setItem(at, JSON.stringify(kept));
  else sessionStorage.removeItem(at);
}

function restore() {
  const kept = JSON.parse(sessionStorage.getItem(at) ?? "[]");
  sessionStorage.removeItem(at);
  let first = null;
  for (const { form: called, typed } of kept) {
    const form = forms().find((f) => name(f) === called);
    if (!form) continue;
    for (const [field, value, checked] of typed) {
      const e = boxes(form).find((x) => x.name === field && (x.type !== "radio" && x.type !== "checkbox" || x.value === value));
      if (!e) continue;
      if (e.type === "checkbox" || e.type === "radio") e.checked = checked;
      else e.value = value;
      first ??= changed(e) ? e : null;
    }
    for (let d = form.closest("details"); d; d = d.parentElement.closest("details")) d.open = true;
  }
  if (!first) return;
  const said = document.createElement("p");
  said.className = "unsent";
  said.setAttribute("role", "status");
  said.innerHTML = "What you had typed is still there, and not kept yet. <button type=button class=btn-link>Show me</button> <button type=button class=btn-link>Drop it</button>";
  const [show, drop] = said.querySelectorAll("button");
  show.addEventListener("click", () => { first.scrollIntoView({ block: "center" }); first.focus(); });
  drop.addEventListener("click", () => { forms().forEach((f) => dirty(f) && f.reset()); said.remove(); });
  document.querySelector("main").prepend(said);
}

document.addEventListener("submit", (e) => {
  const form = e.target;
  if (form.method !== "post" || e.defaultPrevented) return;
  for (const other of form.querySelectorAll("input[name=also]")) other.remove();
  const others = forms().filter((f) => f !== form && dirty(f));
  if (document.querySelector("[data-carries]") && others.every((f) => f.action === form.action)) {
    for (const f of others) { // one page, one thing: what stands elsewhere on it goes along
      const also = document.createElement("input");
      also.type = "hidden";
      also.name = "also";
      also.value = new URLSearchParams(new FormData(f)).toString();
      form.append(also);
    }
    sessionStorage.removeItem(at);
  } else {
    stash(form);
  }
  leaving = true;
  setTimeout(() => { leaving = false; }, 3000); // a download leaves the page where it is
});
addEventListener("beforeunload", (e) => {
  if (leaving || !forms().some(dirty)) return;
  stash(null);
  e.preventDefault();
});
restore();
addEventListener("pageshow", (e) => {
  if (e.persisted && document.querySelector("[data-carries]")) location.reload(); // gone back to: it may be kept by now
});
