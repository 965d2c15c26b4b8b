// What every screen with a script begins with: mark that scripts run.
import "./unsent.js";
import "./keys.js";

document.documentElement.classList.add("js");

// What was visited opens without network, where the browser lets it: over TLS, or at this machine. keep has the page as it
// now is kept too, once it is left alone for a while.
const worker = "worker" in document.body.dataset && navigator.serviceWorker;
if (worker) worker.register("/sw.js").catch(() => {}); // it works without
let later;
export function keep() {
  clearTimeout(later);
  if (worker?.controller) later = setTimeout(() => worker.controller.postMessage({ keep: location.href }), 4000);
}

// announce speaks a message politely 400 ms after the last change, or at once
// where it is about safety.
let timer;
export function announce(text, urgent) {
  const at = document.getElementById(urgent ? "assertive" : "polite");
  if (urgent) {
    at.textContent = text;
    return;
  }
  clearTimeout(timer);
  timer = setTimeout(() => { at.textContent = text; }, 400);
}

// What takes longer than a moment to come says so: the page before stays meanwhile.
let coming;
function still() {
  clearTimeout(coming);
  delete document.body.dataset.coming;
}
function comes(e) {
  still();
  const link = e.type === "click" ? e.target.closest?.("a[href]") : null;
  const elsewhere = link && (link.origin !== location.origin || link.hasAttribute("download") || link.target || link.pathname === location.pathname && link.search === location.search);
  if (e.defaultPrevented || e.button || e.metaKey || e.ctrlKey || e.shiftKey || elsewhere || e.type === "click" && !link) return;
  coming = setTimeout(() => {
    document.body.dataset.coming = "Working it out …";
    announce("Working it out");
  }, 800);
}
addEventListener("click", comes);
addEventListener("submit", comes);
addEventListener("pageshow", still); // gone back to
