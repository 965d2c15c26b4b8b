// contour is the line where a grid of values stands at a level, as segments
// [x1, y1, x2, y2] in cells, the middle of the first at 0.5. It ends where the grid holds
// null: no line runs along the edge of what there is.
export function contour(values, cols, rows, level) {
  const out = [];
  const cross = (a, b) => (level - a) / (b - a);
  for (let y = 0; y + 1 < rows; y++) {
    for (let x = 0; x + 1 < cols; x++) {
      const c = [values[y * cols + x], values[y * cols + x + 1], values[(y + 1) * cols + x + 1], values[(y + 1) * cols + x]];
      if (c.includes(null)) continue;
      const [a, b, d, e] = c.map((v) => v >= level);
      const pts = [];
      if (a !== b) pts.push([x + cross(c[0], c[1]), y]);
      if (b !== d) pts.push([x + 1, y + cross(c[1], c[2])]);
      if (d !== e) pts.push([x + cross(c[3], c[2]), y + 1]);
      if (e !== a) pts.push([x, y + cross(c[0], c[3])]);
      for (let n = 0; n + 1 < pts.length; n += 2) out.push([...pts[n], ...pts[n + 1]].map((v) => v + 0.5));
    }
  }
  return out;
}
