// The scale of the plan's picture: stretches "x,from,to;…" with px and local times
// "2026-12-05T09:00", hours in which nobody does anything folded between them.

const minute = 60000;

const read = (s) => Date.parse(s + ":00Z"); // the wall's clock, whatever the zone

const write = (ms) => new Date(ms).toISOString().slice(0, 16);

// timeAt is the time at a place, as a form has it; within a fold as far as it has passed.
export function timeAt(stretches, x) {
  const parts = stretches.split(";").map((s) => {
    const [at, from, to] = s.split(",");
    return { x: Number(at), from: read(from), to: read(to) };
  });
  const perMinute = scaleOf(parts);
  let last = parts[0];
  if (x <= last.x) return write(last.from - ((last.x - x) / perMinute) * minute);
  for (let n = 0; n < parts.length; n++) {
    const p = parts[n], end = p.x + ((p.to - p.from) / minute) * perMinute, next = parts[n + 1];
    if (x <= end || !next) return write(p.from + ((x - p.x) / perMinute) * minute);
    if (x < next.x) return write(p.to + ((x - end) / (next.x - end)) * (next.from - p.to));
  }
}

const fold = 64; // px, as the server folds

// scaleOf is px a minute: what two stretches lie apart less the fold, or that of a single one.
function scaleOf(parts) {
  if (parts.length > 1) {
    const [a, b] = parts;
    return (b.x - a.x - fold) / ((a.to - a.from) / minute);
  }
  const [a] = parts;
  return (1232 - 8 - a.x) / ((a.to - a.from) / minute);
}

// fiveMinutes rounds a time to five minutes.
export function fiveMinutes(s) {
  return write(Math.round(read(s) / (5 * minute)) * 5 * minute);
}
