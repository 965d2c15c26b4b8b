// The Larder finds while one types; without this module the form submits.
import { announce } from "./page.js";
import { fragment } from "./fragment.js";

const form = document.querySelector(".larder-search");
const load = fragment(document.getElementById("found"), shown);
let timer;

function find() {
  load("/larder?" + new URLSearchParams(new FormData(form)));
}

function shown(url) {
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
