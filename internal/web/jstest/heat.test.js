// The heat screen's modules without a page, by node's own test runner.
import assert from "node:assert/strict";
import { mock, test } from "node:test";
import { contour } from "../static/js/heat/contour.js";
import { colour, degrees, frame, lastMinute, nothing, sampler } from "../static/js/heat/field.js";
import { Player } from "../static/js/heat/player.js";

test("a colour is read off the ramp, and held at its ends", () => {
  assert.deepEqual(colour(20), [0x26, 0x30, 0x4a]);
  assert.deepEqual(colour(-5), colour(20));
  assert.deepEqual(colour(41), [0x5e, 0x3f, 0x66], "the second of five, a quarter of the way");
  assert.deepEqual(colour(51.5), [0x5e, 0x3f, 0x66].map((c, k) => Math.round((c + [0xa0, 0x4f, 0x5a][k]) / 2)));
  assert.deepEqual(colour(180), colour(104));
});

test("degrees are whole, in the household's unit", () => {
  assert.equal(degrees(96.6, "°C"), "97 °C");
  assert.equal(degrees(96.6, "°F"), "206 °F");
});

const field = {
  across: 2, up: 2,
  frames: [
    { m: 0, t: [20, 20, 20, nothing], air: 180, crust: 20, middle: 20 },
    { m: 10, t: [40, 60, 80, nothing], air: 170, crust: 90, middle: 40 },
  ],
};

test("a minute between two frames is between them", () => {
  assert.deepEqual(frame(field, 5), { t: [30, 40, 50, nothing], air: 175, crust: 55, middle: 30 });
  assert.equal(frame(field, -1), field.frames[0]);
  assert.equal(frame(field, 10), field.frames[1], "and after the last it stays");
  assert.equal(frame(field, 99), field.frames[1]);
  assert.equal(lastMinute(undefined, field), 10);
});

test("the field is read between cells, and nothing is nothing", () => {
  const read = sampler(field, field.frames[1].t); // columns outwards, each upwards: 40 60 | 80 -
  assert.equal(read(0.25, 0.25), 40);
  assert.equal(read(0.25, 0.75), 60);
  assert.equal(read(0.5, 0.25), 60, "half way to 80");
  assert.equal(read(0, 0), 40, "no further than the outer cells");
  assert.equal(read(0.75, 0.75), null);
});

test("a contour stands where the level is crossed", () => {
  const slope = [0, 10, 20, 0, 10, 20]; // three columns, two rows
  assert.deepEqual(contour(slope, 3, 2, 5), [[1, 0.5, 1, 1.5]]);
  assert.deepEqual(contour(slope, 3, 2, 10), [[1.5, 0.5, 1.5, 1.5]], "what is at the level is over it");
  assert.deepEqual(contour(slope, 3, 2, 30), []);
  assert.deepEqual(contour([0, 10, null, 0, 10, 20], 3, 2, 15), [], "no line beside nothing");
  const saddle = contour([10, 0, 0, 10], 2, 2, 5);
  assert.equal(saddle.length, 2, "two lines through a saddle");
  const hill = contour([0, 0, 0, 0, 8, 0, 0, 0, 0], 3, 3, 4);
  const ends = hill.flatMap(([a, b, c, d]) => [`${a} ${b}`, `${c} ${d}`]).sort();
  assert.equal(hill.length, 4);
  for (let n = 0; n < ends.length; n += 2) assert.equal(ends[n], ends[n + 1], "a ring is closed");
});

test("a bake plays from where it stands to its end, and anew from there", () => {
  let now = 0, next = null;
  mock.method(performance, "now", () => now);
  globalThis.requestAnimationFrame = (f) => { next = f; return 1; };
  globalThis.cancelAnimationFrame = () => { next = null; };
  const seen = [];
  let stops = 0;
  const player = new Player((v) => seen.push(v), () => stops++);
  const tick = (t) => { now = t; next(t); };
  player.play(20, 40, 8000);
  assert.ok(player.playing);
  tick(2000);
  tick(4000);
  assert.deepEqual(seen, [30, 40]);
  assert.equal(stops, 1);
  assert.ok(!player.playing);
  player.play(40, 40, 8000);
  tick(5000);
  assert.equal(seen.at(-1), 5, "from the beginning");
  player.stop();
  assert.equal(next, null);
});
