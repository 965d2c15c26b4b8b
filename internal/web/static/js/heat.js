// The heat screen: the cut through the middle at the minute that the handle is set to,
// and the line on the chart that follows it.
import "./bench.js";
import { draw } from "./heat/draw.js";
import { degrees, frame, lastMinute } from "./heat/field.js";
import { Player } from "./heat/player.js";

const root = document.getElementById("bench-root");
const still = matchMedia("(prefers-reduced-motion: reduce)");
const bake = 8000; // ms that a bake plays
let data, at = null, look = null; // at goes back to the first look when that is another

const canvas = () => document.getElementById("heat-canvas");
const end = () => lastMinute(data.a, data.b);
const label = (words) => { const b = document.getElementById("play"); if (b) b.textContent = words; };
const player = new Player(show, () => label("Play"));

function show(minute) {
  at = minute;
  redraw();
  const b = frame(data.b, minute), out = minute > data.b.ready + 0.01;
  const air = out ? `out of the ${data.b.heat}` : data.b.heat + " " + degrees(5 * Math.round(b.air / 5), data.unit);
  const words = `${Math.round(minute)} min: middle ${degrees(b.middle, data.unit)}, crust ${degrees(b.crust, data.unit)}, ${air}`;
  const handle = document.getElementById("minute");
  handle.value = minute;
  handle.setAttribute("aria-valuetext", words);
  document.getElementById("moment").textContent = words;
  const line = document.getElementById("now-line"), axis = line.closest("svg").dataset;
  const x = +axis.left + minute * axis.perMinute;
  line.toggleAttribute("hidden", x > +axis.right);
  line.setAttribute("d", `M${x} ${axis.top}V${axis.bottom}`);
}

function redraw() {
  if (data && canvas()) draw(canvas(), data, at, getComputedStyle(root));
}

function start() {
  player.stop();
  if (!canvas()) return;
  data = JSON.parse(canvas().dataset.heat);
  const handle = document.getElementById("minute");
  handle.max = Math.floor(end());
  handle.step = end() > 25 ? 1 : 0.5;
  document.getElementById("play").hidden = still.matches;
  if (look !== data.b.look) at = null;
  look = data.b.look;
  show(Math.min(at ?? Math.round(look), end()));
}

root.addEventListener("shown", start);
root.addEventListener("input", (e) => {
  if (e.target.id !== "minute") return;
  player.stop();
  show(+e.target.value);
});
root.addEventListener("click", (e) => {
  if (!e.target.closest("#play")) return;
  if (player.playing) return player.stop();
  label("Stop");
  player.play(at, end(), bake);
});
addEventListener("resize", redraw);
matchMedia("(prefers-color-scheme: dark)").addEventListener("change", redraw);
start();
