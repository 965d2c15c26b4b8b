import "./page.js";

document.getElementById("print")?.addEventListener("click", () => print());
