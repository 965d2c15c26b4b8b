// The heat field: one half of the cut through the middle, at the minute that the handle
// is set to. Beside a pinned set-up, A is the left half and B the right.
import "./bench.js";

const root = document.getElementById("bench-root");
const ramp = ["#26304A", "#5E3F66", "#A04F5A", "#D98648", "#F6DFA0"].map((c) => [1, 3, 5].map((n) => parseInt(c.slice(n, n + 2), 16)));
const coolest = 20, hottest = 104; // °C, ends of the ramp: a crust that is hotter is no lighter
const axisLeft = 52, axisRight = 482; // px, of the chart
const still = matchMedia("(prefers-reduced-motion: reduce)");
let data, playing = 0, at = null;

function colour(t) {
  const x = Math.max(0, Math.min(0.9999, (t - coolest) / (hottest - coolest))) * (ramp.length - 1);
  const n = Math.floor(x), f = x - n;
  return ramp[n].map((c, k) => Math.round(c + (ramp[n + 1][k] - c) * f));
}

const degrees = (t) => (data.unit === "°F" ? Math.round(t * 1.8 + 32) : Math.round(t)) + " " + data.unit;

// frame is the field at a minute, between two kept ones.
function frame(field, minute) {
  const list = field.frames;
  let n = list.findIndex((f) => f.m > minute);
  if (n < 0) return list[list.length - 1];
  if (n === 0) return list[0];
  const a = list[n - 1], b = list[n], f = (minute - a.m) / (b.m - a.m);
  const mix = (x, y) => x + (y - x) * f;
  return { t: a.t.map((x, k) => (x === -99 ? -99 : mix(x, b.t[k]))), air: mix(a.air, b.air), crust: mix(a.crust, b.crust), middle: mix(a.middle, b.middle) };
}

// sampler reads the field between cells; u goes outwards and v upwards, both 0 to 1.
function sampler(field, t) {
  const cell = (i, k) => t[Math.max(0, Math.min(field.across - 1, i)) * field.up + Math.max(0, Math.min(field.up - 1, k))];
  return (u, v) => {
    const x = u * field.across - 0.5, y = v * field.up - 0.5, i = Math.floor(x), k = Math.floor(y), fx = x - i, fy = y - k;
    const here = cell(Math.round(x), Math.round(y));
    if (here === -99) return null;
    const or = (c) => (c === -99 ? here : c);
    return (or(cell(i, k)) * (1 - fx) + or(cell(i + 1, k)) * fx) * (1 - fy) + (or(cell(i, k + 1)) * (1 - fx) + or(cell(i + 1, k + 1)) * fx) * fy;
  };
}

function draw(minute) {
  const canvas = document.getElementById("heat-canvas");
  const fields = data.a ? [data.a, data.b] : [data.b, data.b];
  const scale = Math.min(devicePixelRatio || 1, 2);
  const width = canvas.clientWidth || 560, height = Math.round(width * 260 / 560);
  canvas.width = width * scale;
  canvas.height = height * scale;
  const g = canvas.getContext("2d");
  g.scale(scale, scale);
  const style = getComputedStyle(root), ink = style.getPropertyValue("--ink"), muted = style.getPropertyValue("--muted");
  const wide = Math.max(...fields.map((f) => f.width)), high = Math.max(...fields.map((f) => Math.max(f.height, f.tin)));
  const px = Math.min((width - 110) / wide, (height - 40) / high), floor = height - 22;
  const mid = (width + 40 + (fields[0].width - fields[1].width) * px / 2) / 2; // the pair stands in the middle
  g.font = "14px " + style.getPropertyValue("--text");
  fields.forEach((field, side) => {
    const now = frame(field, minute), read = sampler(field, now.t), way = side ? 1 : -1;
    const inner = field.funnel * px, w = (field.width / 2 - field.funnel) * px, h = field.height * px;
    const cols = Math.max(2, Math.round(w)), rows = Math.max(2, Math.round(h));
    const image = new ImageData(cols, rows), hot = [];
    for (let y = 0; y < rows; y++) {
      for (let x = 0; x < cols; x++) {
        const t = read(way > 0 ? (x + 0.5) / cols : 1 - (x + 0.5) / cols, 1 - (y + 0.5) / rows), p = 4 * (y * cols + x);
        hot.push(t);
        if (t === null) continue;
        image.data.set([...colour(t), 255], p);
      }
    }
    const tile = new OffscreenCanvas(cols, rows);
    tile.getContext("2d").putImageData(image, 0, 0);
    const left = way > 0 ? mid + inner : mid - inner - w;
    g.drawImage(tile, left, floor - h, w, h);
    const dx = w / cols, dy = h / rows;
    const named = [];
    for (const level of [40, 60, 80]) {
      const path = contour(hot, cols, rows, level, left, floor - h, dx, dy);
      g.strokeStyle = "#fffdf9";
      g.lineWidth = 1;
      g.stroke(path);
      const row = Math.round(rows * 0.72) * cols; // where the line is named, from outside inwards
      for (let n = 1; n < cols; n++) {
        const out = way > 0 ? cols - 1 - n : n;
        if (hot[row + out] === null || hot[row + out] >= level) continue;
        if (n > 6) named.push([degrees(level), left + out * dx, floor - h + Math.round(rows * 0.72) * dy]);
        break;
      }
    }
    const done = contour(hot, cols, rows, field.done, left, floor - h, dx, dy);
    for (const [style, thick] of [["#fffdf9", 5], ["#2a2422", 2]]) { // a dark core with a pale halo
      g.strokeStyle = style;
      g.lineWidth = thick;
      g.stroke(done);
    }
    if (field.tin > 0) { // the wall of the tin, and the batter as it went in
      const edge = mid + way * field.width / 2 * px, rim = floor - Math.min(field.tin * px, height - 30);
      g.strokeStyle = ink;
      g.lineWidth = 3;
      g.beginPath();
      g.moveTo(edge + way * 1.5, rim);
      g.lineTo(edge + way * 1.5, floor + 1.5);
      g.lineTo(mid + way * inner, floor + 1.5);
      if (inner > 0) g.lineTo(mid + way * inner, rim); // the funnel
      g.stroke();
      g.strokeStyle = "#fffdf9";
      g.lineWidth = 2;
      g.setLineDash([7, 6]);
      g.beginPath();
      g.moveTo(left, floor - field.batter * px);
      g.lineTo(left + w, floor - field.batter * px);
      g.stroke();
      g.setLineDash([]);
    }
    g.textAlign = "center";
    g.strokeStyle = "#2a2422";
    g.fillStyle = "#fffdf9";
    g.lineWidth = 3;
    for (const [text, x, y] of named) {
      g.strokeText(text, x, y);
      g.fillText(text, x, y);
    }
    // where it is done last
    const sx = mid + way * (inner + (field.slowest[0] + 0.5) / field.across * w), sy = floor - (field.slowest[1] + 0.5) / field.up * h;
    if (side || data.a) {
      g.fillStyle = "#fff";
      g.strokeStyle = "#2a2422";
      g.lineWidth = 2;
      g.beginPath();
      g.arc(sx, sy, 4, 0, 7);
      g.fill();
      g.stroke();
      pill(g, degrees(now.middle), Math.max(34, Math.min(width - 34, sx + way * 34)), sy - 14);
    }
    if (data.a) {
      g.fillStyle = ink;
      g.textAlign = "center";
      g.fillText(side ? "B" : "A", mid + way * (inner + w / 2), floor + 17);
    }
  });
  if (data.a) {
    g.strokeStyle = ink;
    g.setLineDash([4, 4]);
    g.beginPath();
    g.moveTo(mid, floor - high * px - 8);
    g.lineTo(mid, floor + 4);
    g.stroke();
    g.setLineDash([]);
  }
  g.fillStyle = g.strokeStyle = muted; // a rule in centimetres
  g.lineWidth = 1;
  g.textAlign = "right";
  for (let cm = 0; floor - cm * px > 12; cm += 2) {
    g.fillText(cm || "0 cm", cm ? 34 : 40, floor - cm * px + 5);
    g.fillRect(cm ? 38 : 44, floor - cm * px, 8, 1);
  }
}

// contour is the line where a temperature stands.
function contour(hot, cols, rows, level, x0, y0, dx, dy) {
  const path = new Path2D();
  const over = (x, y) => hot[y * cols + x] !== null && hot[y * cols + x] >= level;
  const cross = (a, b) => (level - a) / (b - a);
  for (let y = 0; y + 1 < rows; y++) {
    for (let x = 0; x + 1 < cols; x++) {
      const c = [hot[y * cols + x], hot[y * cols + x + 1], hot[(y + 1) * cols + x + 1], hot[(y + 1) * cols + x]];
      if (c.includes(null)) continue;
      const code = (over(x, y) ? 1 : 0) | (over(x + 1, y) ? 2 : 0) | (over(x + 1, y + 1) ? 4 : 0) | (over(x, y + 1) ? 8 : 0);
      if (code === 0 || code === 15) continue;
      const pts = [];
      if ((code & 1) !== (code >> 1 & 1)) pts.push([x + cross(c[0], c[1]), y]);
      if ((code >> 1 & 1) !== (code >> 2 & 1)) pts.push([x + 1, y + cross(c[1], c[2])]);
      if ((code >> 2 & 1) !== (code >> 3 & 1)) pts.push([x + cross(c[3], c[2]), y + 1]);
      if ((code >> 3 & 1) !== (code & 1)) pts.push([x, y + cross(c[0], c[3])]);
      for (let n = 0; n + 1 < pts.length; n += 2) {
        path.moveTo(x0 + (pts[n][0] + 0.5) * dx, y0 + (pts[n][1] + 0.5) * dy);
        path.lineTo(x0 + (pts[n + 1][0] + 0.5) * dx, y0 + (pts[n + 1][1] + 0.5) * dy);
      }
    }
  }
  return path;
}

function pill(g, text, x, y) {
  const w = g.measureText(text).width + 12;
  g.fillStyle = "#fffdf9";
  g.beginPath();
  g.roundRect(x - w / 2, y - 10, w, 20, 6);
  g.fill();
  g.fillStyle = "#2a2422";
  g.textAlign = "center";
  g.fillText(text, x, y + 5);
}

// end is the last minute that can be looked at.
const end = () => Math.max(data.b.frames.at(-1).m, data.a?.frames.at(-1).m ?? 0);

function show(minute) {
  at = minute;
  draw(minute);
  const b = frame(data.b, minute), out = minute > data.b.ready + 0.01;
  const words = `${Math.round(minute)} min: middle ${degrees(b.middle)}, crust ${degrees(b.crust)}, ${out ? `out of the ${data.b.heat}` : data.b.heat + " " + degrees(5 * Math.round(b.air / 5))}`;
  const handle = document.getElementById("minute");
  handle.value = minute;
  handle.setAttribute("aria-valuetext", words);
  document.getElementById("moment").textContent = words;
  const line = document.getElementById("now-line"), x = axisLeft + minute * line.closest("svg").dataset.perMinute;
  line.toggleAttribute("hidden", x > axisRight);
  line.setAttribute("d", `M${x} 26V218`);
}

function stop() {
  cancelAnimationFrame(playing);
  playing = 0;
  const button = document.getElementById("play");
  if (button) button.textContent = "Play";
}

function play() {
  if (playing) return stop();
  const button = document.getElementById("play");
  button.textContent = "Stop";
  let from = at >= end() ? 0 : at, began = performance.now();
  const step = (t) => {
    const minute = Math.min(end(), from + (t - began) / 8000 * end()); // a bake in eight seconds
    show(minute);
    if (minute >= end()) return stop();
    playing = requestAnimationFrame(step);
  };
  playing = requestAnimationFrame(step);
}

function start() {
  stop();
  const canvas = document.getElementById("heat-canvas");
  if (!canvas) return;
  data = JSON.parse(canvas.dataset.heat);
  const handle = document.getElementById("minute");
  handle.max = Math.floor(end());
  handle.step = end() > 25 ? 1 : 0.5;
  document.getElementById("play").hidden = still.matches;
  show(Math.min(at ?? Math.round(data.b.look), end()));
}

root.addEventListener("shown", start);
root.addEventListener("input", (e) => {
  if (e.target.id !== "minute") return;
  stop();
  show(+e.target.value);
});
root.addEventListener("click", (e) => { if (e.target.closest("#play")) play(); });
addEventListener("resize", () => data && document.getElementById("heat-canvas") && draw(at));
matchMedia("(prefers-color-scheme: dark)").addEventListener("change", () => data && document.getElementById("heat-canvas") && draw(at));
start();
