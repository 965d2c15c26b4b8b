// The Larder finds while one types; without this module the form submits.
import { announce } from "./page.js";

const form = document.querySelector(".larder-search");
const found = document.getElementById("found");
let timer, asked = 0;

async function find() {
  const mine = ++asked;
  const url = "/larder?" + new URLSearchParams(new FormData(form));
  const res = await fetch(url, { headers: { "X-Fragment": "1" } });
  if (!res.ok || mine !== asked) return;
  found.innerHTML = await res.text();
  history.replaceState(null, "", url);
  const words = document.getElementById("found-words")?.textContent ?? "";
  form.querySelector(".quiet-words").textContent = words;
  announce(words);
}

form?.addEventListener("input", () => {
  clearTimeout(timer);
  timer = setTimeout(find, 150);
});
form?.addEventListener("submit", (e) => {
  e.preventDefault();
  find();
});
