// The frame of the page: the clock, the paper, and what happens when the session or the server is gone.
const cookie = (name) => document.cookie.split("; ").find((part) => part.startsWith(name + "="))?.slice(name.length + 1);

let ahead = 0;

/** Milliseconds since 1970 by the server's clock. */
export const serverNow = () => Date.now() + ahead;

function tick() {
  const clock = document.querySelector("[data-clock]");
  if (!clock) return;
  ahead = Number(clock.dataset.clock) - Date.now();
  const show = () => {
    for (const now of document.querySelectorAll("[data-clock]")) {
      const words = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: now.dataset.zone });
      now.textContent = words.format(new Date(serverNow()));
    }
  };
  setInterval(show, 5000);
}

function paper() {
  document.addEventListener("click", (event) => {
    if (!event.target.closest("[data-paper-next]")) return;
    const root = document.documentElement;
    const next = { system: "light", light: "dark", dark: "system" }[root.dataset.paper];
    root.dataset.paper = next;
    document.cookie = `paper=${next}; path=/; max-age=31536000; samesite=lax`;
    event.target.closest("[data-paper-next]").textContent = `Paper: ${next}`;
    document.dispatchEvent(new Event("paper"));
  });
}

/** What is moved sideways since it is wider than the screen, and has nothing in it that a key could reach, is reached itself. */
function reachable() {
  for (const box of document.querySelectorAll("main :has(> table)")) {
    const wide = box.scrollWidth > box.clientWidth && getComputedStyle(box).overflowX !== "visible";
    if (wide && !box.querySelector("a, button, input, select, textarea, summary")) box.tabIndex = 0;
    else if (box.tabIndex === 0) box.removeAttribute("tabindex");
  }
}

export function notice(id) {
  document.getElementById(id)?.removeAttribute("hidden");
}

export function startFrame() {
  tick();
  paper();
  reachable();
  addEventListener("resize", reachable);
  document.addEventListener("htmx:afterSettle", reachable);
  document.addEventListener("fresh", reachable);
  document.body.addEventListener("htmx:configRequest", (event) => {
    const token = cookie("XSRF-TOKEN");
    if (token) event.detail.headers["X-XSRF-TOKEN"] = decodeURIComponent(token);
  });
  document.body.addEventListener("htmx:responseError", (event) => {
    const status = event.detail.xhr.status;
    notice(status === 401 || status === 403 ? "logged-out" : "went-wrong");
  });
  document.body.addEventListener("htmx:sendError", () => notice("no-answer"));
  document.addEventListener("click", (event) => {
    const bar = event.target.closest("[data-close]")?.closest(".notice-bar");
    if (bar) bar.hidden = true;
  });
}
