import { pick } from "./many.js";

// The keyboard. A key does what the visible link or button marked data-key does, so nothing works by key alone.
function typing(target) {
  return target.matches("input, textarea, select, [contenteditable]");
}

function rows() {
  return [...document.querySelectorAll(".row-link")];
}

function step(by) {
  const all = rows();
  if (all.length === 0) return;
  const here = all.indexOf(document.activeElement);
  const current = here >= 0 ? here : all.findIndex((row) => row.hasAttribute("aria-current"));
  const next = current < 0 ? (by > 0 ? 0 : all.length - 1) : Math.min(all.length - 1, Math.max(0, current + by));
  all[next].focus();
}

function press(key) {
  const found = [...document.querySelectorAll(`[data-key="${CSS.escape(key)}"]`)].find((one) => one.checkVisibility() && !one.closest("[inert]"));
  if (!found) return false;
  if (found.matches("input, textarea")) found.focus();
  else found.click();
  return true;
}

export function startKeys() {
  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    const inDialog = document.querySelector("dialog[open]");
    if (event.key === "Escape" && !inDialog) {
      const panel = event.target.closest(".panel");
      if (panel) {
        document.dispatchEvent(new CustomEvent("close-panels"));
        return;
      }
      if (typing(event.target)) event.target.blur();
      return;
    }
    if (typing(event.target) || inDialog) return;
    if (event.target.matches(".curve") && event.key.startsWith("Arrow")) return;
    if (event.key.length === 1 && document.documentElement.dataset.keys === "off") return;
    if (event.key === "j" || event.key === "ArrowDown") step(1);
    else if (event.key === "k" || event.key === "ArrowUp") step(-1);
    else if (event.key === "x" && event.target.matches(".row-link")) {
      if (!pick(event.target)) return;
    } else if (!press(event.key)) return;
    event.preventDefault();
  });
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-help]")) document.getElementById("help").showModal();
  });
}
