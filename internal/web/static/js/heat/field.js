// The field of temperatures: numbers only, no page. A field is what the server sends as
// heatField (curves.go): cells across × up, frames by the minute, °C, and nothing where
// the bake is not.
export const nothing = -99;

const ramp = ["#26304A", "#5E3F66", "#A04F5A", "#D98648", "#F6DFA0"].map((c) => [1, 3, 5].map((n) => parseInt(c.slice(n, n + 2), 16)));
const coolest = 20, hottest = 104; // °C, ends of the ramp: a crust that is hotter is no lighter

// colour is the red, green and blue of a temperature.
export function colour(t) {
  const x = Math.max(0, Math.min(0.9999, (t - coolest) / (hottest - coolest))) * (ramp.length - 1);
  const n = Math.floor(x), f = x - n;
  return ramp[n].map((c, k) => Math.round(c + (ramp[n + 1][k] - c) * f));
}

// degrees writes a temperature in the household's unit.
export const degrees = (t, unit) => (unit === "°F" ? Math.round(t * 1.8 + 32) : Math.round(t)) + " " + unit;

// frame is the field at a minute, between two kept ones.
export function frame(field, minute) {
  const list = field.frames;
  const n = list.findIndex((f) => f.m > minute);
  if (n < 0) return list[list.length - 1];
  if (n === 0) return list[0];
  const a = list[n - 1], b = list[n], f = (minute - a.m) / (b.m - a.m);
  const mix = (x, y) => x + (y - x) * f;
  return { t: a.t.map((x, k) => (x === nothing ? nothing : mix(x, b.t[k]))), air: mix(a.air, b.air), crust: mix(a.crust, b.crust), middle: mix(a.middle, b.middle) };
}

// sampler reads the field between cells; u goes outwards and v upwards, both 0 to 1. It
// gives null where there is nothing.
export function sampler(field, t) {
  const cell = (i, k) => t[Math.max(0, Math.min(field.across - 1, i)) * field.up + Math.max(0, Math.min(field.up - 1, k))];
  return (u, v) => {
    const x = u * field.across - 0.5, y = v * field.up - 0.5, i = Math.floor(x), k = Math.floor(y), fx = x - i, fy = y - k;
    const here = cell(Math.round(x), Math.round(y));
    if (here === nothing) return null;
    const or = (c) => (c === nothing ? here : c);
    return (or(cell(i, k)) * (1 - fx) + or(cell(i + 1, k)) * fx) * (1 - fy) + (or(cell(i, k + 1)) * (1 - fx) + or(cell(i + 1, k + 1)) * fx) * fy;
  };
}

// lastMinute is the last minute that any of the fields can be looked at.
export const lastMinute = (...fields) => Math.max(...fields.map((f) => f?.frames.at(-1).m ?? 0));
