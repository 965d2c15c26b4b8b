// What waits for a network, by node's own test runner.
import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";

let kept, full;
globalThis.addEventListener = () => {};
globalThis.localStorage = {
  getItem: (key) => kept.get(key) ?? null,
  setItem(key, value) {
    if (full) throw new Error("QuotaExceededError");
    kept.set(key, value);
  },
};
const { sent, waiting } = await import("../static/js/waiting.js");
beforeEach(() => { kept = new Map(); full = false; });

test("it is sent in its order, and stops where nothing answers", async () => {
  const got = [], said = [];
  let away = true;
  const q = waiting("k", async (x) => { if (away) throw new Error("away"); got.push(x); }, (...n) => said.push(n.join()));
  q.add(1);
  q.add(2);
  assert.equal(await q.flush(), false);
  assert.deepEqual([got, q.size], [[], 2]);
  away = false;
  assert.equal(await q.flush(), true);
  assert.deepEqual([got, q.size], [[1, 2], 0]);
  assert.deepEqual([said[0], said.at(-1)], ["0,0", "0,0"]);
});

test("two tabs that send at once lose nothing", async () => {
  const got = [];
  let go;
  const both = new Promise((then) => { go = then; });
  const send = async (x) => { await both; got.push(x); };
  const a = waiting("k", send, () => {}), b = waiting("k", send, () => {});
  for (const x of ["one", "two", "three"]) a.add({ x });
  const done = Promise.all([a.flush(), b.flush()]);
  go();
  await done;
  for (const x of ["one", "two", "three"]) assert.ok(got.some((y) => y.x === x), x);
  assert.equal(a.size, 0);
});

test("what is refused is told, and holds up nothing", async () => {
  const got = [], said = [];
  const q = waiting("k", async (x) => { if (x === 1) throw Object.assign(new Error(), { refused: true }); got.push(x); }, (...n) => said.push(n.join()));
  q.add(1);
  q.add(2);
  assert.equal(await q.flush(), true);
  assert.deepEqual([got, said.at(-1)], [[2], "0,1"]);
});

test("a browser that keeps nothing keeps it as long as the page", async () => {
  full = true;
  const got = [];
  const q = waiting("k", async (x) => { got.push(x); }, () => {});
  q.add("tick");
  q.add("tock");
  assert.equal(q.size, 2);
  await q.flush();
  assert.deepEqual([got, q.size], [["tick", "tock"], 0]);
});

test("a damaged list is none", () => {
  for (const was of ["{", "null", "7", '{"a":1}']) {
    kept.set("k", was);
    assert.equal(waiting("k", async () => {}, () => {}).size, 0, was);
  }
});

test("what answers no is refused, who has to log in is asked later", () => {
  for (const [status, refused] of [[404, true], [409, true], [403, true], [401, false], [408, false], [429, false], [500, false], [503, false]]) {
    assert.throws(() => sent({ ok: false, status }), (e) => e.refused === refused, String(status));
  }
  for (const res of [{ ok: true, status: 200 }, { ok: false, status: 422 }]) assert.equal(sent(res), res);
});
