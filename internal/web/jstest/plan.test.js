// The scale of the plan's picture, by node's own test runner.
import assert from "node:assert/strict";
import { test } from "node:test";
import { fiveMinutes, timeAt } from "../static/js/plan/scale.js";

// Two stretches of an hour, at two px a minute, and nine hours folded into 64 px between them.
const day = "116.0,2026-12-04T21:00,2026-12-04T22:00;300.0,2026-12-05T07:00,2026-12-05T08:00";

test("a place is a time, to scale and within a fold", () => {
  for (const [x, at] of [
    [116, "2026-12-04T21:00"], [176, "2026-12-04T21:30"], [236, "2026-12-04T22:00"], [268, "2026-12-05T02:30"],
    [300, "2026-12-05T07:00"], [420, "2026-12-05T08:00"], [480, "2026-12-05T08:30"], [96, "2026-12-04T20:50"],
  ]) assert.equal(timeAt(day, x), at, String(x));
});

test("a single stretch fills the width", () => {
  const one = "116.0,2026-12-31T23:00,2027-01-01T01:00";
  assert.equal(timeAt(one, 116), "2026-12-31T23:00");
  assert.equal(timeAt(one, 116 + (1232 - 8 - 116) / 2), "2027-01-01T00:00");
});

test("times are rounded to five minutes", () => {
  assert.equal(fiveMinutes("2026-12-04T21:02"), "2026-12-04T21:00");
  assert.equal(fiveMinutes("2026-12-04T21:03"), "2026-12-04T21:05");
  assert.equal(fiveMinutes("2026-12-31T23:58"), "2027-01-01T00:00");
});
