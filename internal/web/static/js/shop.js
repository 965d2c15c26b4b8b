// The list to buy: a tick is kept as it is made, each by itself, so that two who shop do not untick one another's; without
// network it waits.
import "./card.js";
import { announce } from "./page.js";
import { sent, sign, soon, waiting } from "./waiting.js";

const form = document.getElementById("ticks");
if (form) {
  document.getElementById("save-ticks").hidden = true;
  const queue = waiting("ticks-wait-" + form.getAttribute("action"), async (fields) => sent(await fetch(form.action, { method: "POST", body: new URLSearchParams(fields), signal: soon() })), sign(form));
  for (const tick of queue.all.map(Object.fromEntries)) { // a page that is opened anew shows them too
    const box = form.querySelector(`[name=bought][value="${CSS.escape(tick.bought)}"]`);
    if (box) box.checked = box.defaultChecked = tick.on === "1";
  }
  form.addEventListener("change", async (e) => {
    if (e.target.name !== "bought") return;
    e.target.defaultChecked = e.target.checked; // it is not lost where the page is left
    queue.add([["do", "tick"], ["bought", e.target.value], ["on", e.target.checked ? "1" : "0"]]);
    announce(await queue.flush() ? "Kept." : "No network: the tick waits here.");
  });
  setInterval(() => { if (queue.size > 0) queue.flush(); }, 5000);
  queue.flush();
}
