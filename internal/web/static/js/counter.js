// The counter: what is told goes to the server and comes back worked out; scale, probe and what others tell
// arrive by a stream. Without network what is told waits here, with how long ago it was.
import { announce } from "./page.js";
import { sent, sign, soon, store, waiting } from "./waiting.js";

const root = document.getElementById("counter"), id = root.dataset.id, strip = root.dataset.strip;
const rate = Number(root.dataset.rate), here = "/bakes/" + id;
let swappedAt = performance.now(), seq = -1, spoken = "";

const $ = (name) => document.getElementById(name);

// What a person wants of the screen, kept on this device.
const wants = {};
for (const name of ["light", "sound", "speak", "notify", "auto"]) {
  const box = $("c-" + name), kept = store.get("counter-" + name);
  if (kept !== null) box.checked = kept === "1";
  const set = () => {
    wants[name] = box.checked;
    root.classList.toggle("light", wants.light === true);
  };
  set();
  box.addEventListener("change", () => {
    set();
    store.set("counter-" + name, box.checked ? "1" : "0");
    if (name === "notify" && box.checked && "Notification" in window) Notification.requestPermission();
    if (name === "auto") listen();
    if (name === "speak") say(true);
  });
}

async function post(fields) {
  return sent(await fetch(here, { method: "POST", body: new URLSearchParams(fields), headers: { "X-Fragment": "1" }, signal: soon() }));
}
const queue = waiting("bake-waits-" + id, ({ fields, at }) => post([...fields, ["ago", String((Date.now() - at) / 1000)]]), sign(root));

async function tell(fields) {
  try {
    if (queue.size > 0 && !(await queue.flush())) throw new Error("still away");
    const res = await post(fields), html = await res.text();
    answers++;
    swap(html);
    history.replaceState(null, "", res.url);
  } catch (e) {
    if (e.refused) { location.reload(); return; } // the bake was taken away: the page says so
    queue.add({ fields, at: Date.now() });
  }
}

// A page that comes while a finger is down waits until it is lifted: the button under it must not be changed for
// another, or the press is lost.
let pressed = false, late = null;
root.addEventListener("pointerdown", () => { pressed = true; });
for (const end of ["pointerup", "pointercancel"]) {
  addEventListener(end, () => setTimeout(() => { // after the click that follows
    pressed = false;
    const html = late;
    if (html !== null) swap(html);
  }));
}

// swap puts the page as it now is in its place; the focus stays where it was.
function swap(html) {
  late = pressed ? html : null;
  if (pressed) return;
  const was = document.activeElement, key = was?.id || (was?.hasAttribute?.("data-main") ? "main" : ""), typed = was?.value;
  root.innerHTML = html;
  swappedAt = performance.now();
  seq = Number(root.querySelector(".c-where")?.dataset.seq ?? seq);
  const to = key === "main" ? root.querySelector("[data-main]") : key ? $(key) : null;
  to?.focus({ preventScroll: true });
  if (to?.matches?.("input[inputmode]") && typed !== undefined) to.value = typed;
  const task = root.querySelector(".c-task")?.textContent ?? "", told = root.querySelector(".c-tell")?.textContent.trim() ?? "";
  announce((task + " " + told).replace(/\s+/g, " ").trim());
  say(false);
  tick();
}
let answers = 0; // how many were put in place: what was asked before the last of them is older than it
async function reload() {
  if (root.querySelector("input:focus")?.value) return; // somebody types
  try {
    const then = answers;
    const res = await fetch(location.href, { headers: { "X-Fragment": "1" } }), html = await res.text();
    if (res.ok && then === answers) swap(html);
  } catch { /* the stream calls again */ }
}

root.addEventListener("submit", (e) => {
  e.preventDefault();
  const data = new FormData(e.target, e.submitter);
  tell([...data.entries()]);
});
root.addEventListener("click", async (e) => {
  const a = e.target.closest("a");
  if (!a || e.metaKey || e.ctrlKey || a.closest(".c-tabs")) return;
  e.preventDefault();
  history.pushState(null, "", a.href);
  await reload();
});
addEventListener("popstate", reload);

// Keys: space for the great button, the arrows for the tasks beside.
addEventListener("keydown", (e) => {
  if (e.target.closest("input, select, textarea, summary, button, a") && e.key !== "ArrowLeft" && e.key !== "ArrowRight") return;
  if (e.target.closest("input, select, textarea") || e.altKey || e.ctrlKey || e.metaKey) return;
  const to = e.key === " " ? root.querySelector("[data-main]") : root.querySelector(`[data-key="${e.key}"]`);
  if (!to) return;
  e.preventDefault();
  to.click();
});

// say reads the task aloud.
function say(again) {
  const words = root.querySelector("[data-say]")?.dataset.say ?? "";
  if (!wants.speak || !("speechSynthesis" in window) || words === "" || (words === spoken && !again)) return;
  spoken = words;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

// Timers run on here between two answers of the server, which alone knows when they end.
const rung = new Set();
function ring(name) {
  announce(name + " is over.", true);
  if (wants.sound) {
    const audio = new AudioContext();
    for (let n = 0; n < 4; n++) {
      const tone = audio.createOscillator(), loud = audio.createGain();
      tone.frequency.value = n % 2 ? 660 : 880;
      loud.gain.value = 0.25;
      tone.connect(loud).connect(audio.destination);
      tone.start(audio.currentTime + n * 0.35);
      tone.stop(audio.currentTime + n * 0.35 + 0.25);
    }
  }
  if (wants.notify && "Notification" in window && Notification.permission === "granted") new Notification("Kollaris", { body: name + " is over." });
}
function clock(left) {
  const s = Math.ceil(left), two = (n) => String(n).padStart(2, "0");
  return s >= 3600 ? `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}` : `${Math.floor(s / 60)}:${two(s % 60)}`;
}
function tick() {
  const passed = (performance.now() - swappedAt) / 1000 * rate;
  for (const b of root.querySelectorAll("[data-left]")) {
    const left = Number(b.dataset.left) - ("paused" in b.dataset ? 0 : passed), row = b.closest(".c-timer"), name = row.dataset.name;
    if (left > 0) {
      b.textContent = clock(left);
      rung.delete(name);
    } else if (!row.classList.contains("rang")) {
      row.classList.add("rang");
      b.textContent = "rings";
    }
    if (left <= 0 && left > -60 && !rung.has(name)) {
      rung.add(name);
      ring(name);
    }
  }
}
setInterval(tick, 500);
setInterval(reload, Math.max(2000, 30000 / rate));

// The stream.
let stream;
function listen() {
  stream?.close();
  stream = new EventSource(`${here}/live?bake=${strip}`);
  stream.addEventListener("told", (e) => { if (Number(e.data) !== seq) reload(); });
  stream.addEventListener("devices", (e) => heard(JSON.parse(e.data)));
  stream.addEventListener("open", queue.flush);
  attend();
}

// While somebody works at this page what the devices say is written down: the stream only shows it.
let attends = 0;
async function attend() {
  const mine = ++attends;
  if (!("scale" in root.dataset || "probe" in root.dataset)) return;
  while (mine === attends) {
    const auto = wants.auto && "scale" in root.dataset ? "&auto=1" : "";
    try {
      const res = await fetch(`${here}/attend?bake=${strip}${auto}`, { method: "POST" });
      if (res.status === 403 || res.status === 404) return; // guests look
      if (!res.ok) await new Promise((go) => setTimeout(go, 2000));
    } catch {
      await new Promise((go) => setTimeout(go, 2000));
    }
  }
}
function heard(state) {
  const at = $("c-devices");
  if (at) at.replaceChildren(...[state.scale, state.probe].filter(Boolean).map((words) => Object.assign(document.createElement("span"), { textContent: words })));
  const weigh = state.weigh, big = $("c-big"), fill = $("c-fill");
  if (!weigh || !big || !fill) return;
  big.textContent = weigh.grams;
  fill.setAttribute("width", weigh.fill);
  $("c-say").textContent = weigh.say;
  const over = $("c-over");
  if (over) over.hidden = !weigh.over;
  if (weigh.factor) $("c-factor").value = weigh.factor;
  $("c-value").value = weigh.value;
}

// The screen stays awake where it can.
async function awake() {
  try { await navigator.wakeLock?.request("screen"); } catch { /* it may sleep: timers are the server's */ }
}
document.addEventListener("visibilitychange", () => {
  if (document.visibilityState !== "visible") return;
  awake();
  reload();
});
awake();
seq = Number(root.querySelector(".c-where").dataset.seq);
listen();
tick();
say(true);
setInterval(() => { if (queue.size > 0) queue.flush(); }, 5000);
