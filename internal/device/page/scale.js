// The stand-in scale's page: what it shows, and what is poured on it.
const shown = document.getElementById("shown"), tilt = document.getElementById("tilt");
const step = 200; // ms

async function ask(pour) {
  try {
    const res = await (pour ? fetch("/", { method: "POST", body: new URLSearchParams({ pour }) }) : fetch("/state"));
    shown.textContent = (await res.json()).shown.toFixed(1) + " g";
  } catch {
    shown.textContent = "gone";
  }
}

for (const b of document.querySelectorAll("[data-pour]")) b.addEventListener("click", () => ask(b.dataset.pour));
for (const end of ["pointerup", "blur"]) tilt.addEventListener(end, () => { tilt.value = 0; });
setInterval(() => ask(tilt.valueAsNumber > 0 ? (tilt.valueAsNumber * step / 1000).toFixed(2) : ""), step);
