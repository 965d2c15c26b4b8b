// What every screen with a script begins with: mark that scripts run.
import "./unsent.js";
import "./keys.js";

document.documentElement.classList.add("js");

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
