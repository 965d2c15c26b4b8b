// A part of the page that the server works out anew. While it does, what stands there is
// grey and holds no verdict; after a moment a sign says so; and where it does not answer,
// words say that the figures are from before the change, with a way to try again.
const moment = 300, longest = 20000; // ms

// fragment makes root such a part; swapped is called after each answer.
export function fragment(root, swapped = () => {}) {
  const note = document.createElement("div");
  note.className = "fragment-note no-print";
  root.before(note);
  let asked = new AbortController(), sign;

  function state(name, words, url) {
    clearTimeout(sign);
    root.classList.toggle("working", name !== "");
    root.classList.toggle("stale", name === "failed");
    root.setAttribute("aria-busy", String(name === "working"));
    note.dataset.state = name;
    note.replaceChildren();
    if (!words) return;
    const p = document.createElement("p");
    if (name === "failed") p.setAttribute("role", "alert");
    p.textContent = words;
    note.append(p);
    if (!url) return;
    const again = document.createElement("button");
    again.type = "button";
    again.className = "btn-act";
    again.textContent = "Try again";
    again.addEventListener("click", () => load(...url));
    note.append(again);
  }

  // load asks for an address and puts what comes in its place; true where it came. An
  // older question is given up.
  async function load(url, push) {
    asked.abort();
    const mine = asked = new AbortController();
    const late = setTimeout(() => mine.abort("late"), longest);
    state("working");
    sign = setTimeout(() => state("working", "Working it out …"), moment);
    try {
      const res = await fetch(url, { headers: { "X-Fragment": "1" }, signal: mine.signal });
      const html = await res.text();
      if (!res.ok && res.status !== 422) throw new Error(res.status);
      if (mine !== asked) return false; // a later change came while the text was read
      root.innerHTML = html;
      state("");
      swapped(url, push);
      return true;
    } catch {
      if (mine !== asked) return false;
      state("failed", "Couldn’t work that out. Your choices are kept; these figures are from before the change.", [url, push]);
      return false;
    } finally {
      clearTimeout(late);
    }
  }
  return load;
}
