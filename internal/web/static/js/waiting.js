// What is told while nothing answers waits in the browser, in its order, and is sent as soon as something does.
export const store = {
  get(key) { try { return localStorage.getItem(key); } catch { return null; } },
  set(key, value) { try { localStorage.setItem(key, value); } catch { /* not kept: it lasts as long as the page */ } },
};

// sent throws where an answer says that nothing was taken. Who was logged out or asks too much is asked again later.
export function sent(res) {
  if (!res.ok && res.status !== 422) throw Object.assign(new Error("refused"), { refused: res.status < 500 && ![401, 408, 429].includes(res.status) });
  return res;
}

// sign says before a part of the page how many wait.
export const sign = (part) => (n) => {
  let p = document.getElementById("c-queue");
  if (n === 0) { p?.remove(); return; }
  if (!p) {
    p = document.createElement("p");
    p.id = "c-queue";
    p.className = "counter-queue";
    p.setAttribute("role", "status");
    part.before(p);
  }
  p.textContent = `No network: ${n} told here wait${n === 1 ? "s" : ""}, and will be sent as soon as there is one.`;
};

// waiting keeps a list under a key. send sends one of it and throws where it was not taken, with refused set where it
// never will be; shown is called with how many wait whenever that may have changed.
export function waiting(key, send, shown) {
  const list = () => JSON.parse(store.get(key) ?? "[]");
  const put = (all) => { store.set(key, JSON.stringify(all)); shown(all.length); };
  let sending = null;
  async function flush() {
    for (let all = list(); all.length > 0; all = list()) {
      try {
        await send(all[0]);
      } catch (e) {
        if (!e.refused) break; // still away; what is refused is not asked for ever
      }
      put(list().slice(1));
    }
    shown(list().length);
    return list().length === 0;
  }
  const self = {
    add(entry) { put([...list(), entry]); },
    flush: () => sending ??= flush().finally(() => { sending = null; }),
    get size() { return list().length; },
    get all() { return list(); },
  };
  addEventListener("online", self.flush);
  shown(self.size);
  return self;
}
