// A picture's lines: their ends are dragged or moved by arrow keys, and say how high the slice stood.
import "./page.js";

const figure = document.getElementById("photo");
const svg = figure.querySelector("svg");
const wide = Number(figure.dataset.wide);
const high = Number(figure.dataset.high);
const form = document.getElementById("known").form;
const shown = document.getElementById("measured");

const box = (end, axis) => form.elements[end + axis];
const length = (line) => Math.hypot(
  (box(line + "a", "x").value - box(line + "b", "x").value) * wide,
  (box(line + "a", "y").value - box(line + "b", "y").value) * high,
);

// say shows the height by the known width; the server works it out by itself.
function say() {
  const known = Number(document.getElementById("known").value.replace(",", "."));
  const by = length("w");
  shown.textContent = known > 0 && by > 0 ? `${((known * length("h")) / by).toFixed(1)} cm` : "?";
}

function move(end, x, y) {
  x = Math.min(1, Math.max(0, x));
  y = Math.min(1, Math.max(0, y));
  box(end, "x").value = x.toFixed(4);
  box(end, "y").value = y.toFixed(4);
  const dot = svg.querySelector(`[data-end="${end}"]`);
  dot.setAttribute("cx", x * wide);
  dot.setAttribute("cy", y * high);
  const n = end.endsWith("a") ? "1" : "2";
  for (const id of ["under", "line"]) {
    const line = document.getElementById(`${end[0]}-${id}`);
    line.setAttribute("x" + n, x * wide);
    line.setAttribute("y" + n, y * high);
  }
  say();
}

const steps = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
for (const dot of svg.querySelectorAll("[data-end]")) {
  const end = dot.dataset.end;
  dot.addEventListener("pointerdown", (e) => {
    dot.setPointerCapture(e.pointerId);
    e.preventDefault();
    dot.focus();
  });
  dot.addEventListener("pointermove", (e) => {
    if (!dot.hasPointerCapture(e.pointerId)) return;
    const r = svg.getBoundingClientRect();
    move(end, (e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height);
  });
  dot.addEventListener("keydown", (e) => {
    const by = steps[e.key];
    if (!by) return;
    e.preventDefault();
    const step = e.shiftKey ? 0.05 : 0.005;
    move(end, Number(box(end, "x").value) + by[0] * step, Number(box(end, "y").value) + by[1] * step);
  });
}
document.getElementById("known").addEventListener("input", say);
say();
