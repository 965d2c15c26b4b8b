// The stand-in probe's page: the loaf's middle, and where it is.
const core = document.getElementById("core"), minutes = document.getElementById("minutes");

async function ask(what) {
  try {
    const res = await (what ? fetch("/", { method: "POST", body: new URLSearchParams({ do: what }) }) : fetch("/state"));
    const is = await res.json();
    core.textContent = is.core.toFixed(1) + " °C";
    minutes.textContent = is.minutes > 0 ? `In the oven for ${is.minutes.toFixed(0)} min, ${is.speed} times as fast.` : "The loaf stands on the counter.";
  } catch {
    core.textContent = "gone";
  }
}

for (const b of document.querySelectorAll("[data-do]")) b.addEventListener("click", () => ask(b.dataset.do));
setInterval(() => ask(), 1000);
