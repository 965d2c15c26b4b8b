// What is told while nothing answers waits in the browser, in its order, and is sent as soon as something does.
const here = new Map(); // what the browser did not take: it lasts as long as the page
export const store = {
  get(key) {
    if (here.has(key)) return here.get(key);
    try { return localStorage.getItem(key); } catch { return null; }
  },
  set(key, value) {
    try { localStorage.setItem(key, value); here.delete(key); } catch { here.set(key, value); }
  },
};

// soon is how long an answer is waited for: a machine that sleeps gives none, and what is told then waits. What is told twice happened
// once.
export const soon = () => AbortSignal.timeout(8000);

// sent throws where an answer says that nothing was taken. Who was logged out or asks too much is asked again later.
export function sent(res) {
  if (!res.ok && res.status !== 422) throw Object.assign(new Error("refused"), { refused: res.status < 500 && ![401, 408, 429].includes(res.status) });
  return res;
}

// sign says before a part of the page how many wait, and how many were not taken.
export const sign = (part) => {
  const line = (id, on, words) => {
    let p = document.getElementById(id);
    if (!on) { p?.remove(); return; }
    if (!p) {
      p = document.createElement("p");
      p.id = id;
      p.className = "counter-queue";
      p.setAttribute("role", "status");
      part.before(p);
    }
    p.textContent = words;
  };
  return (waits, refused) => {
    line("c-queue", waits > 0, `No network: ${waits} told here wait${waits === 1 ? "s" : ""}, and will be sent as soon as there is one.`);
    line("c-refused", refused > 0, `${refused} told here without network ${refused === 1 ? "was" : "were"} not taken: what ${refused === 1 ? "it belongs" : "they belong"} to was changed or taken away meanwhile.`);
  };
};

// waiting keeps a list under a key. send sends one of it and throws where it was not taken, with refused set where it
// never will be; shown is called with how many wait, and how many of this page were refused, whenever that may have changed.
export function waiting(key, send, shown) {
  let refused = 0, sending = null;
  const list = () => {
    try {
      const all = JSON.parse(store.get(key) ?? "[]");
      return Array.isArray(all) ? all : [];
    } catch { return []; } // it is damaged, and nothing can be made of it
  };
  const put = (all) => { store.set(key, JSON.stringify(all)); shown(all.length, refused); };
  // done takes one off the list, which another tab may have sent and taken off meanwhile.
  const done = (one) => {
    const all = list(), n = all.findIndex((x) => JSON.stringify(x) === one);
    put(n < 0 ? all : [...all.slice(0, n), ...all.slice(n + 1)]);
  };
  async function flush() {
    for (let all = list(); all.length > 0; all = list()) {
      const one = JSON.stringify(all[0]);
      try {
        await send(all[0]);
      } catch (e) {
        if (!e.refused) break; // still away; what is refused is not asked for ever
        refused++;
      }
      done(one);
    }
    shown(list().length, refused);
    return list().length === 0;
  }
  const self = {
    add(entry) { put([...list(), entry]); },
    flush: () => sending ??= flush().finally(() => { sending = null; }),
    get size() { return list().length; },
    get all() { return list(); },
  };
  addEventListener("online", self.flush);
  shown(self.size, refused);
  return self;
}
