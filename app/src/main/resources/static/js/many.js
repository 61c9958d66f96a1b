// Many cases at once: x chooses the row that has the focus, and what is done is done to all that are chosen.
function show() {
  const bar = document.getElementById("many");
  if (!bar) return;
  const chosen = document.querySelectorAll(".pick:checked").length;
  bar.hidden = chosen === 0;
  bar.querySelector("[data-chosen]").textContent = `${chosen} chosen`;
  document.getElementById("case-rows")?.classList.toggle("picking", chosen > 0);
}

/** Chooses the row of a link, or lets it go. */
export function pick(row) {
  const box = row.closest("li")?.querySelector(".pick");
  box?.click();
  return Boolean(box);
}

export function startMany() {
  document.addEventListener("change", (event) => event.target.matches(".pick") && show());
  document.addEventListener("fresh", show);
  document.addEventListener("click", (event) => {
    if (!event.target.closest("[data-pick-none]")) return;
    document.querySelectorAll(".pick:checked").forEach((box) => { box.checked = false; });
    show();
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (event.detail.elt?.id !== "many" || !event.detail.successful) return;
    document.querySelectorAll(".pick:checked").forEach((box) => { box.checked = false; });
    show();
  });
}
