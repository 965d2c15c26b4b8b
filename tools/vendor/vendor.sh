#!/usr/bin/env bash
# Copies what ships with the pages from npm into the tree, with its licences.
set -euo pipefail
here="$(cd "$(dirname "$0")" && pwd)"
root="$(cd "$here/../.." && pwd)"
out="$root/internal/web/static/vendor"
work="$(mktemp -d)"
trap 'rm -rf "$work"' EXIT
cp "$here/package.json" "$work/"
[ -f "$here/package-lock.json" ] && cp "$here/package-lock.json" "$work/"
(cd "$work" && npm install --no-audit --no-fund --ignore-scripts >/dev/null)
m="$work/node_modules"
rm -rf "$out"
mkdir -p "$out/fonts" "$out/licences" "$root/e2e/vendor"
sed 's#/\*\# sourceMappingURL.*##' "$m/bootstrap/dist/css/bootstrap.min.css" > "$out/bootstrap.min.css"
for f in bitter atkinson-hyperlegible-next; do
  cp "$m/@fontsource-variable/$f/files/$f-latin-wght-normal.woff2" "$out/fonts/$f.woff2"
  cp "$m/@fontsource-variable/$f/files/$f-latin-ext-wght-normal.woff2" "$out/fonts/$f-ext.woff2"
  cp "$m/@fontsource-variable/$f/LICENSE" "$out/licences/$f.txt"
done
cp "$m/bootstrap/LICENSE" "$out/licences/bootstrap.txt"
cp "$m/bootstrap-icons/LICENSE" "$out/licences/bootstrap-icons.txt"
# one sprite of the few icons used
{
  echo '<svg xmlns="http://www.w3.org/2000/svg">'
  for i in check-circle-fill exclamation-triangle-fill x-octagon-fill question-circle-fill printer trash3 arrow-counterclockwise arrow-clockwise search plus-lg pencil lock-fill; do
    sed -n 's/.*\(<path.*\)/\1/p' "$m/bootstrap-icons/icons/$i.svg" | tr -d '\n' | sed 's#</svg>##; s#^#<symbol id="'"$i"'" viewBox="0 0 16 16">#; s#$#</symbol>\n#'
  done
  echo '</svg>'
} > "$out/icons.svg"
cp "$m/axe-core/axe.min.js" "$root/e2e/vendor/axe.min.js"
cp "$m/axe-core/LICENSE" "$root/e2e/vendor/axe-core-LICENSE.txt"
grep -v '"resolved"' "$work/package-lock.json" > "$here/package-lock.json" || true
