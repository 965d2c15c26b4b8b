// draw paints the cut through the middle onto a canvas: beside a pinned set-up, A is the
// left half and B the right; without one, both halves are B.
import { contour } from "./contour.js";
import { colour, degrees, frame, sampler } from "./field.js";

const pale = "#fffdf9", dark = "#2a2422"; // on the field, in either colour scheme
const left = 40, below = 22; // px: the rule in centimetres, the names of the halves

export function draw(canvas, data, minute, style) {
  const fields = data.a ? [data.a, data.b] : [data.b, data.b];
  const g = context(canvas);
  const width = canvas.clientWidth || 560, height = Math.round(width * 260 / 560);
  const ink = style.getPropertyValue("--ink");
  const wide = Math.max(...fields.map((f) => f.width)), high = Math.max(...fields.map((f) => Math.max(f.height, f.tin)));
  const px = Math.min((width - 110) / wide, (height - 40) / high), floor = height - below;
  const mid = (width + left + (fields[0].width - fields[1].width) * px / 2) / 2; // the pair stands in the middle
  g.font = "14px " + style.getPropertyValue("--text");
  fields.forEach((field, side) => {
    const half = { g, field, now: frame(field, minute), way: side ? 1 : -1, px, mid, floor, width, height, ink, unit: data.unit };
    half.inner = field.funnel * px;
    half.w = (field.width / 2 - field.funnel) * px;
    half.h = field.height * px;
    half.left = side ? mid + half.inner : mid - half.inner - half.w;
    const named = paint(half);
    if (field.tin > 0) tin(half);
    names(g, named);
    if (side || data.a) slowest(half);
    if (!data.a) return;
    g.fillStyle = ink;
    g.textAlign = "center";
    g.fillText(side ? "B" : "A", mid + half.way * (half.inner + half.w / 2), floor + 17);
  });
  if (data.a) between(g, ink, mid, floor - high * px - 8, floor + 4);
  rule(g, style.getPropertyValue("--muted"), floor, px);
}

function context(canvas) {
  const scale = Math.min(devicePixelRatio || 1, 2);
  const width = canvas.clientWidth || 560;
  canvas.width = width * scale;
  canvas.height = Math.round(width * 260 / 560) * scale;
  const g = canvas.getContext("2d");
  g.scale(scale, scale);
  return g;
}

// paint fills a half with its temperatures and lines, and gives the lines' names.
function paint({ g, field, now, way, w, h, left, floor, unit }) {
  const read = sampler(field, now.t);
  const cols = Math.max(2, Math.round(w)), rows = Math.max(2, Math.round(h));
  const image = new ImageData(cols, rows), hot = [];
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < cols; x++) {
      const t = read(way > 0 ? (x + 0.5) / cols : 1 - (x + 0.5) / cols, 1 - (y + 0.5) / rows);
      hot.push(t);
      if (t !== null) image.data.set([...colour(t), 255], 4 * (y * cols + x));
    }
  }
  const tile = new OffscreenCanvas(cols, rows);
  tile.getContext("2d").putImageData(image, 0, 0);
  g.drawImage(tile, left, floor - h, w, h);
  const dx = w / cols, dy = h / rows, row = Math.round(rows * 0.72); // where a line is named, from outside inwards
  const line = (level, ...strokes) => {
    const path = new Path2D();
    for (const [x1, y1, x2, y2] of contour(hot, cols, rows, level)) {
      path.moveTo(left + x1 * dx, floor - h + y1 * dy);
      path.lineTo(left + x2 * dx, floor - h + y2 * dy);
    }
    for (const [style, thick] of strokes) {
      g.strokeStyle = style;
      g.lineWidth = thick;
      g.stroke(path);
    }
  };
  const named = [];
  for (const level of [40, 60, 80]) {
    line(level, [pale, 1]);
    for (let n = 1; n < cols; n++) {
      const out = way > 0 ? cols - 1 - n : n, t = hot[row * cols + out];
      if (t === null || t >= level) continue;
      if (n > 6) named.push([degrees(level, unit), left + out * dx, floor - h + row * dy]);
      break;
    }
  }
  line(field.done, [pale, 5], [dark, 2]); // a dark core with a pale halo
  return named;
}

// tin draws its wall, and the batter as it went in.
function tin({ g, field, way, px, mid, floor, inner, w, left, height, ink }) {
  const edge = mid + way * field.width / 2 * px, rim = floor - Math.min(field.tin * px, height - 30);
  g.strokeStyle = ink;
  g.lineWidth = 3;
  g.beginPath();
  g.moveTo(edge + way * 1.5, rim);
  g.lineTo(edge + way * 1.5, floor + 1.5);
  g.lineTo(mid + way * inner, floor + 1.5);
  if (inner > 0) g.lineTo(mid + way * inner, rim); // the funnel
  g.stroke();
  g.strokeStyle = pale;
  g.lineWidth = 2;
  g.setLineDash([7, 6]);
  g.beginPath();
  g.moveTo(left, floor - field.batter * px);
  g.lineTo(left + w, floor - field.batter * px);
  g.stroke();
  g.setLineDash([]);
}

function names(g, named) {
  g.textAlign = "center";
  g.strokeStyle = dark;
  g.fillStyle = pale;
  g.lineWidth = 3;
  for (const [text, x, y] of named) {
    g.strokeText(text, x, y);
    g.fillText(text, x, y);
  }
}

// slowest marks where it is done last.
function slowest({ g, field, now, way, mid, floor, inner, w, h, width, unit }) {
  const x = mid + way * (inner + (field.slowest[0] + 0.5) / field.across * w), y = floor - (field.slowest[1] + 0.5) / field.up * h;
  g.fillStyle = "#fff";
  g.strokeStyle = dark;
  g.lineWidth = 2;
  g.beginPath();
  g.arc(x, y, 4, 0, 7);
  g.fill();
  g.stroke();
  pill(g, degrees(now.middle, unit), Math.max(34, Math.min(width - 34, x + way * 34)), y - 14);
}

function pill(g, text, x, y) {
  const w = g.measureText(text).width + 12;
  g.fillStyle = pale;
  g.beginPath();
  g.roundRect(x - w / 2, y - 10, w, 20, 6);
  g.fill();
  g.fillStyle = dark;
  g.textAlign = "center";
  g.fillText(text, x, y + 5);
}

function between(g, ink, x, from, to) {
  g.strokeStyle = ink;
  g.setLineDash([4, 4]);
  g.beginPath();
  g.moveTo(x, from);
  g.lineTo(x, to);
  g.stroke();
  g.setLineDash([]);
}

// rule is the height in centimetres.
function rule(g, muted, floor, px) {
  g.fillStyle = g.strokeStyle = muted;
  g.lineWidth = 1;
  g.textAlign = "right";
  for (let cm = 0; floor - cm * px > 12; cm += 2) {
    g.fillText(cm || "0 cm", cm ? 34 : 40, floor - cm * px + 5);
    g.fillRect(cm ? 38 : 44, floor - cm * px, 8, 1);
  }
}
