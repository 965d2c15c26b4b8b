// The plan's picture: the meal, a task within its window, or a bake between ovens is dragged; the
// server works out what follows. Every drag has a box beside it that does the same.
import "./card.js";
import { timeAt, fiveMinutes } from "./plan/scale.js";

const svg = document.querySelector("svg[data-stretches]");
const form = document.getElementById("plan-moves");
if (svg && form) drag(svg, form);

function drag(svg, form) {
  const stretches = svg.dataset.stretches;
  const send = (values) => {
    for (const [name, value] of Object.entries(values)) form.elements[name].value = value;
    form.submit();
  };
  const place = (e) => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return { x: p.x, y: p.y };
  };
  svg.dataset.drags = "yes"; // what is dragged from now on is noticed
  let held = null;
  svg.addEventListener("pointerdown", (e) => {
    const bar = e.target.closest(".lane-meal, .bar-bakes, .bar-you");
    if (!bar || bar.classList.contains("bar-you") && Number(bar.dataset.slack) === 0) return;
    held = { bar, from: place(e), moved: { x: 0, y: 0 } };
    svg.setPointerCapture(e.pointerId);
    e.preventDefault();
  });
  svg.addEventListener("pointermove", (e) => {
    if (!held) return;
    const at = place(e);
    let x = at.x - held.from.x, y = at.y - held.from.y;
    if (held.bar.matches(".bar-you")) { x = Math.max(-Number(held.bar.dataset.slack), Math.min(0, x)); y = 0; }
    if (held.bar.matches(".bar-bakes")) x = 0;
    if (held.bar.matches(".lane-meal")) y = 0;
    held.moved = { x, y };
    held.bar.setAttribute("transform", `translate(${x} ${y})`);
  });
  const drop = () => {
    const { bar, moved, from } = held;
    held = null;
    if (bar.matches(".lane-meal") && Math.abs(moved.x) > 4) {
      const at = Number(bar.querySelector("line").getAttribute("x1")) + moved.x;
      return send({ do: "eat", at: fiveMinutes(timeAt(stretches, at)) });
    }
    if (bar.matches(".bar-you") && moved.x < -4) {
      const at = Number(bar.querySelector("rect").getAttribute("x")) + moved.x;
      return send({ do: "pin", key: bar.dataset.key, at: fiveMinutes(timeAt(stretches, at)) });
    }
    const lane = [...svg.querySelectorAll(".lane")].filter((l) => Number(l.dataset.y) <= from.y + moved.y).pop();
    const ovens = [...document.querySelectorAll(`#oven-${bar.dataset.bake} option`)].map((o) => o.value);
    if (bar.matches(".bar-bakes") && lane && !lane.contains(bar) && ovens.includes(lane.dataset.lane)) {
      return send({ do: "oven", bake: bar.dataset.bake, oven: lane.dataset.lane });
    }
    bar.removeAttribute("transform");
  };
  svg.addEventListener("pointerup", () => held && drop());
  svg.addEventListener("pointercancel", () => {
    held?.bar.removeAttribute("transform");
    held = null;
  });
}
