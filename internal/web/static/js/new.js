// Bringing recipes in from files: each is sent by itself, so that its result shows
// as it comes, the rest can be stopped, and files may be dropped on the page.
import { announce } from "./page.js";

const form = document.querySelector("form.bring");
const unsent = document.getElementById("unsent")?.innerHTML ?? "", progress = document.getElementById("progress"); // they leave the page with what they stand in

async function read(file, token) {
  const body = new FormData();
  body.append("files", file);
  try {
    const res = await fetch(form.action, { method: "POST", body, headers: { "X-Fragment": "rows" }, signal: token });
    if (res.ok) return await res.text();
  } catch (err) {
    if (token.aborted) return "";
  }
  return unsent.replace("FILE", () => {
    const span = document.createElement("span");
    span.textContent = file.name;
    return span.innerHTML;
  });
}

async function bring(files) {
  const stop = new AbortController();
  const main = document.querySelector("main");
  const text = document.querySelector("form.newform:not(.bring)"); // what was typed beside the files stays on the page
  main.replaceChildren(progress.content.cloneNode(true));
  if (text?.elements.text.value.trim()) main.append(text);
  const find = (sel) => main.querySelector(sel);
  find(".stop").addEventListener("click", () => stop.abort());
  find("progress").max = files.length;
  const words = find(".verdict-words");
  let done = 0;
  for (const file of files) {
    if (stop.signal.aborted) break;
    words.textContent = `Reading ${file.name}, ${done + 1} of ${files.length}`;
    find("ul").insertAdjacentHTML("beforeend", await read(file, stop.signal));
    find("progress").value = ++done;
  }
  const count = (sel) => main.querySelectorAll(sel).length;
  const [found, bad, ready] = [count("li[data-found]"), count("li.f-stop"), count("li input[name=draft]")];
  const many = (n, word) => `${n} ${word}${n === 1 ? "" : "s"}`;
  words.textContent = `${many(found, "recipe")} found.` + (bad ? ` ${many(bad, "file")} could not be read.` : "") + (stop.signal.aborted ? " Stopped: the rest was not read." : "");
  announce(words.textContent);
  find(".running").remove();
  find(".keep-all").hidden = ready === 0;
}

form?.addEventListener("submit", (e) => {
  const { files } = form.elements.files;
  if (!files.length) return;
  e.preventDefault();
  bring([...files]);
});
document.addEventListener("dragover", (e) => {
  if (form && e.dataTransfer?.types.includes("Files")) {
    e.preventDefault();
    form.classList.add("over");
  }
});
document.addEventListener("dragleave", (e) => {
  if (!e.relatedTarget) form?.classList.remove("over");
});
document.addEventListener("drop", (e) => {
  if (!form?.isConnected || !e.dataTransfer?.files.length) return;
  e.preventDefault();
  bring([...e.dataTransfer.files]);
});
