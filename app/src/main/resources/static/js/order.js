// Lists whose order matters: dragged with the mouse, moved with Alt and an arrow, or with the buttons at each row. What
// stays last stays last. The new order goes to the server, which answers with the list as it is then.
let dragged = null;

function items(list) {
  return [...list.querySelectorAll(":scope > li[data-id]")];
}

async function send(list, focus) {
  const body = new URLSearchParams({ version: list.dataset.version, ids: items(list).map((item) => item.dataset.id).join(",") });
  const token = document.cookie.split("; ").find((one) => one.startsWith("XSRF-TOKEN="))?.split("=")[1];
  const answer = await fetch(list.dataset.order, { method: "POST", body, headers: { "HX-Request": "true", "X-XSRF-TOKEN": decodeURIComponent(token ?? "") } }).catch(() => null);
  if (!answer?.ok) return;
  const whole = list.parentElement;
  const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").getElementById(whole.id);
  if (!fresh) return;
  whole.replaceWith(fresh);
  window.htmx.process(fresh);
  if (focus) fresh.querySelector(`[data-id="${CSS.escape(focus)}"] .row-link`)?.focus();
}

function move(item, by) {
  const list = item.parentElement;
  const all = items(list);
  const to = all.indexOf(item) + by;
  if (to < 0 || to >= all.length || all[to].classList.contains("stays") || item.classList.contains("stays")) return;
  if (by < 0) all[to].before(item);
  else all[to].after(item);
  send(list, item.dataset.id);
}

export function startOrder() {
  document.addEventListener("click", (event) => {
    const mover = event.target.closest("[data-move]");
    if (mover) move(mover.closest("li"), Number(mover.dataset.move));
  });
  document.addEventListener("keydown", (event) => {
    if (!event.altKey || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    const item = event.target.closest("[data-order] > li[draggable=true]");
    if (!item) return;
    event.preventDefault();
    move(item, event.key === "ArrowUp" ? -1 : 1);
  });
  document.addEventListener("dragstart", (event) => {
    dragged = event.target.closest?.("[data-order] > li[draggable=true]") ?? null;
    dragged?.classList.add("dragged");
  });
  document.addEventListener("dragover", (event) => {
    const over = event.target.closest?.("[data-order] > li");
    if (!dragged || !over || over.parentElement !== dragged.parentElement) return;
    event.preventDefault();
    if (over === dragged) return;
    const box = over.getBoundingClientRect();
    if (event.clientY < box.top + box.height / 2) over.before(dragged);
    else if (!over.classList.contains("stays")) over.after(dragged);
  });
  document.addEventListener("drop", (event) => {
    if (dragged) event.preventDefault();
  });
  document.addEventListener("dragend", () => {
    if (!dragged) return;
    dragged.classList.remove("dragged");
    send(dragged.parentElement, dragged.dataset.id);
    dragged = null;
  });
}
