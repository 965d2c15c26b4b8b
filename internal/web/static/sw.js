// The service worker: what ships with the program is at hand at once, and pages that were visited open while Kollaris does
// not answer, each with the time that it is of. Nothing that is worked out is worked out here.
const tree = "TREE", files = FILES;
const policy = {
  "Content-Security-Policy": "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'",
  "X-Content-Type-Options": "nosniff", "Referrer-Policy": "same-origin",
};
const shell = "shell-" + tree, pages = "pages", most = 80;
// What is about who may come in and what is large stays out.
const never = /^\/(?:enter|leave|door|guest|settings|backups|everything|shelf\.zip|log\.zip|healthz|sw\.js|manifest|quit)/;

self.addEventListener("install", (e) => {
  e.waitUntil(caches.open(shell).then((c) => c.addAll(files)).then(() => self.skipWaiting()));
});
self.addEventListener("activate", (e) => {
  e.waitUntil(caches.keys()
    .then((names) => Promise.all(names.filter((n) => n.startsWith("shell-") && n !== shell).map((n) => caches.delete(n))))
    .then(() => self.clients.claim()));
});

self.addEventListener("fetch", (e) => {
  const url = new URL(e.request.url);
  if (url.origin !== location.origin) return;
  if (url.pathname.startsWith("/static/")) {
    e.respondWith(ofShell(e.request, url));
  } else if (e.request.mode === "navigate") {
    e.respondWith(visit(e.request, url));
  }
});

// A page that the reader works on asks for itself to be kept, as it now is.
self.addEventListener("message", (e) => {
  const url = new URL(e.data.keep, location.origin);
  if (url.origin !== location.origin || never.test(url.pathname)) return;
  e.waitUntil(fetch(url, { headers: { Accept: "text/html" } }).then((res) => keep(url.href, res)).catch(() => {}));
});

async function ofShell(request, url) {
  const c = await caches.open(shell);
  const at = await c.match(request);
  if (at) return at;
  try {
    return await fetch(request);
  } catch (err) { // a page of an older program asks for its own: what is now in its place does
    const now = await c.match("/static/" + tree + "/" + url.pathname.split("/").slice(3).join("/"));
    if (now) return now;
    throw err;
  }
}

// same asks for a page that is kept only whether it is the same still.
const same = (request, tag, signal) => fetch(request.url, { signal, headers: { Accept: "text/html", "If-None-Match": tag }, credentials: "same-origin", redirect: "manual" });

// A machine that sleeps says nothing at all, not even that it does not answer: what is kept is shown after so long, ms. Pages are
// worked out in two seconds where there are ten thousand recipes.
const patience = 10000;

async function visit(request, url) {
  const stop = new AbortController();
  let late;
  try {
    const known = request.method === "GET" && !never.test(url.pathname) && await (await caches.open(pages)).match(request.url, { ignoreVary: true });
    const tag = known && known.headers.get("X-Tag");
    if (known) late = setTimeout(() => stop.abort(), patience);
    const res = await (tag ? same(request, tag, stop.signal) : known ? fetch(request, { signal: stop.signal }) : fetch(request));
    clearTimeout(late);
    if (res.status === 304) {
      await keep(request.url, known.clone(), tag);
      return new Response(known.body, { headers: { "Content-Type": "text/html; charset=utf-8", "Cache-Control": "no-store", ...policy } });
    }
    if (res.redirected && new URL(res.url).pathname === "/enter") await caches.delete(pages); // logged out
    if (request.method === "GET" && !never.test(url.pathname)) await keep(res.redirected ? res.url : request.url, res.clone());
    return res;
  } catch {
    const c = await caches.open(pages);
    const kept = request.method === "GET" && await c.match(request.url, { ignoreVary: true });
    return kept ? dated(kept) : away(c, request.method === "GET");
  }
}

async function keep(at, res, tag = res.headers.get("ETag") ?? "") {
  if (res.status !== 200 || !(res.headers.get("Content-Type") ?? "").startsWith("text/html")) return;
  const c = await caches.open(pages);
  const body = await res.text();
  await c.delete(at); // the newest stands last
  await c.put(at, new Response(body, { headers: { "Content-Type": "text/html; charset=utf-8", "X-Kept": String(Date.now()), "X-Tag": tag, ...policy } }));
  const all = await c.keys();
  await Promise.all(all.slice(0, Math.max(0, all.length - most)).map((k) => c.delete(k)));
}

const when = (ms) => new Intl.DateTimeFormat("en-GB", { dateStyle: "long", timeStyle: "short" }).format(new Date(Number(ms)));

// dated is a kept page that says of when it is, before anything else.
async function dated(kept) {
  const words = `<p class="from-cache" role="status"><b>Kollaris does not answer. This page is as it was on ${when(kept.headers.get("X-Kept"))}.</b> What was changed since, in a recipe or of what somebody must not eat, is not in it.</p>`;
  const html = (await kept.text()).replace(/<main [^>]*>/, (main) => main + words);
  return new Response(html, { headers: { "Content-Type": "text/html; charset=utf-8", ...policy } });
}

const plain = (s) => s.replace(/[&<>"]/g, (x) => `&#${x.charCodeAt(0)};`);

// away says what can be opened meanwhile.
async function away(c, asked) {
  const list = [];
  for (const k of (await c.keys()).reverse()) {
    const res = await c.match(k), title = /<title>([^<]*) · Kollaris<\/title>/.exec(await res.text());
    const u = new URL(k.url);
    if (title) list.push(`<li><a href="${plain(u.pathname + u.search)}">${title[1]}</a> <small>${plain(when(res.headers.get("X-Kept")))}</small></li>`);
  }
  const words = asked ? "This page was not opened while it did." : "What you sent was not taken. Go back: it stands in its fields still.";
  return new Response(`<!doctype html><html lang="en-GB"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Kollaris does not answer</title>
<link rel="stylesheet" href="/static/${tree}/vendor/bootstrap.min.css"><link rel="stylesheet" href="/static/${tree}/css/tokens.css"><link rel="stylesheet" href="/static/${tree}/css/app.css"></head>
<body><main id="main"><h1>Kollaris does not answer</h1><p>${words} The machine that it runs on may sleep, or be on another network.</p>
${list.length ? `<h2>At hand, as it was</h2><ul class="at-hand">${list.join("")}</ul>` : ""}</main></body></html>`, { status: 503, headers: { "Content-Type": "text/html; charset=utf-8", ...policy } });
}
