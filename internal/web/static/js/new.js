// Bringing recipes in from files: each is sent by itself, so that one that is not taken holds up none, and files may be dropped on the
// page. They are read beside the pages; this one shows how far that is, and the rest can be stopped.
import { announce } from "./page.js";

const form = document.querySelector("form.bring");
const unsent = document.getElementById("unsent")?.innerHTML ?? "", progress = document.getElementById("progress"); // they leave the page with what they stand in
const find = (sel) => document.querySelector(sel);
const wait = (ms) => new Promise((done) => setTimeout(done, ms));
let stopped = false;

// show puts the state of the job on the page, and speaks it where it has ended.
function show(html) {
  find("#brought-root").innerHTML = html;
  const { id } = find("#brought").dataset;
  history.replaceState(null, "", `/brought/${id}`);
  const stop = find(".running");
  stop?.addEventListener("submit", (e) => {
    e.preventDefault();
    stopped = true;
    fetch(stop.action, { method: "POST" }).catch(() => {});
    stop.remove();
  });
  if (stopped) stop?.remove();
}

const ask = async (to, how = {}) => {
  const res = await fetch(to, { ...how, headers: { "X-Fragment": "brought" } });
  if (!res.ok) throw new Error(res.status);
  return res.text();
};

// watch asks how far it is until it has ended.
async function watch() {
  while (find("#brought[data-running]")) {
    await wait(500);
    try {
      show(await ask(`/brought/${find("#brought").dataset.id}`));
    } catch {
      await wait(2000);
    }
  }
  announce(find("#brought .verdict-words").textContent);
}

async function bring(files) {
  const text = document.querySelector("form.newform:not(.bring)"); // what was typed beside the files stays on the page
  const main = find("main");
  main.replaceChildren(progress.content.cloneNode(true));
  if (text?.elements.text.value.trim()) main.append(text);
  for (const [n, file] of files.entries()) {
    if (stopped) break;
    if (!find("#brought").dataset.id) find("#brought .verdict-words").textContent = `Sending ${file.name}, ${n + 1} of ${files.length}`;
    const body = new FormData();
    body.append("brought", find("#brought").dataset.id ?? "");
    body.append("files", file);
    try {
      show(await ask(form.action, { method: "POST", body }));
    } catch {
      const name = document.createElement("span");
      name.textContent = file.name;
      find("#untaken").insertAdjacentHTML("beforeend", unsent.replace("FILE", () => name.innerHTML));
    }
  }
  if (!find("#brought").dataset.id) find("#brought .verdict-words").textContent = "No file was taken.";
  await watch();
}

if (find("#brought[data-running]")) watch();
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
