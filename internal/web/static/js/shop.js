// The list to buy: a tick is kept as it is made.
import "./card.js";
import { announce } from "./page.js";

const form = document.getElementById("ticks");
if (form) {
  document.getElementById("save-ticks").hidden = true;
  form.addEventListener("change", async () => {
    const answer = await fetch(form.action, { method: "POST", body: new URLSearchParams(new FormData(form)) }).catch(() => null);
    if (answer?.ok) {
      announce("Kept.");
    } else {
      document.getElementById("save-ticks").hidden = false;
      announce("The tick could not be kept. Press Save the ticks.", true);
    }
  });
}
