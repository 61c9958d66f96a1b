// Panels with a form in them, the ten seconds of Undo, and fields that fill other fields.
function closePanels() {
  for (const panel of document.querySelectorAll(".panel[data-panel]")) panel.hidden = true;
  const form = document.getElementById("handoff-panel");
  if (form) form.replaceChildren();
}

function openPanel(name) {
  const panel = document.querySelector(`.panel[data-panel="${name}"]`);
  const wasOpen = panel && !panel.hidden;
  closePanels();
  if (!panel || wasOpen) return;
  panel.hidden = false;
  panel.querySelector("textarea, select, input:not([type=hidden])")?.focus();
}

/** Undo is offered for ten seconds, counted down where it stands. */
function countDown() {
  for (const said of document.querySelectorAll("[data-undo]:not([data-counting])")) {
    said.dataset.counting = "yes";
    let left = 10;
    const beat = setInterval(() => {
      left -= 1;
      const seconds = said.querySelector("[data-seconds]");
      if (seconds) seconds.textContent = left;
      if (left > 0) return;
      clearInterval(beat);
      said.remove();
    }, 1000);
  }
}

/** Choices of hundreds that several fields have are on the page once, in the first; the others have them from there. */
function shareChoices() {
  for (const select of document.querySelectorAll("select[data-choices-of]")) {
    const chosen = select.value;
    select.replaceChildren(...document.getElementById(select.dataset.choicesOf).cloneNode(true).children);
    for (const option of select.options) option.defaultSelected = option.value === chosen;
    select.value = chosen;
    if (select.selectedIndex < 0) select.selectedIndex = 0;
  }
}

export function startForms() {
  shareChoices();
  document.addEventListener("click", (event) => {
    const opener = event.target.closest("[data-open-panel]");
    if (opener) openPanel(opener.dataset.openPanel);
    const fill = event.target.closest("[data-fill]");
    if (fill) document.getElementById(fill.dataset.fill).value = fill.dataset.value;
    if (event.target.closest("[data-close-panel]")) closePanels();
  });
  document.addEventListener("close-panels", closePanels);
  document.addEventListener("htmx:beforeRequest", (event) => {
    if (event.target.matches?.("[data-opens-handoff]")) closePanels();
  });
  document.addEventListener("htmx:afterSettle", (event) => {
    countDown();
    event.target.querySelector?.("[data-focus-first]")?.focus();
  });
  document.addEventListener("toggle", (event) => {
    // A failed message is fetched when it is first opened.
    if (event.target.matches?.("details[open]")) window.htmx.trigger(event.target, "opened");
  }, true);
  countDown();
}

/** What cannot be undone asks once, and names what it will do. */
document.addEventListener("submit", (event) => {
  const words = event.target.dataset.confirm;
  if (words && !window.confirm(words)) event.preventDefault();
});
