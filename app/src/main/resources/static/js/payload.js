// Reading a payload: find in it, fold what lies deeper, and begin at the part that failed.
const MOST_FOUND = 1000;

function box(element) {
  return element.closest("[data-payload]");
}

function shown(whole) {
  return whole.querySelector(".payload");
}

/** Ranges of a text in an element, whatever elements it runs across. */
function rangesOf(element, wanted) {
  const nodes = [];
  let text = "";
  const walker = document.createTreeWalker(element, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    nodes.push({ node, start: text.length });
    text += node.data;
  }
  const ranges = [];
  const low = text.toLowerCase();
  const place = (at) => {
    let from = 0;
    let to = nodes.length - 1;
    while (from < to) {
      const middle = (from + to + 1) >> 1;
      if (nodes[middle].start <= at) from = middle;
      else to = middle - 1;
    }
    return [nodes[from].node, at - nodes[from].start];
  };
  for (let at = low.indexOf(wanted); at >= 0 && ranges.length < MOST_FOUND; at = low.indexOf(wanted, at + wanted.length)) {
    const range = new Range();
    range.setStart(...place(at));
    range.setEnd(...place(at + wanted.length));
    ranges.push(range);
  }
  return ranges;
}

function scrollTo(pane, rect) {
  const view = pane.getBoundingClientRect();
  if (rect.top < view.top || rect.bottom > view.bottom) pane.scrollTop += rect.top - view.top - view.height / 3;
}

function find(field, step) {
  const whole = box(field);
  const pane = shown(whole);
  const said = whole.querySelector("[data-found]");
  const wanted = field.value.toLowerCase();
  if (!window.CSS?.highlights) return;
  CSS.highlights.delete("found");
  CSS.highlights.delete("found-here");
  if (!wanted) {
    said.textContent = "";
    return;
  }
  unfold(pane);
  const ranges = rangesOf(pane, wanted);
  const here = ranges.length ? ((Number(field.dataset.at ?? -1) + step) % ranges.length + ranges.length) % ranges.length : 0;
  field.dataset.at = here;
  said.textContent = ranges.length ? `${here + 1} of ${ranges.length}${ranges.length === MOST_FOUND ? " or more" : ""}` : "not in it";
  if (!ranges.length) return;
  CSS.highlights.set("found", new Highlight(...ranges));
  CSS.highlights.set("found-here", new Highlight(ranges[here]));
  scrollTo(pane, ranges[here].getBoundingClientRect());
}

/** Cuts a laid-out text into lines, each of which knows how deep it stands; marks that run over lines are cut as well. */
function intoLines(pane) {
  const lines = [[]];
  const put = (node) => lines.at(-1).push(node);
  for (const node of [...pane.childNodes]) {
    const parts = node.textContent.split("\n");
    parts.forEach((part, place) => {
      if (place > 0) lines.push([]);
      if (!part) return;
      if (node.nodeType === Node.TEXT_NODE) put(document.createTextNode(part));
      else {
        const copy = node.cloneNode(false);
        copy.textContent = part;
        put(copy);
      }
    });
  }
  const made = lines.map((nodes) => {
    const line = document.createElement("span");
    line.className = "line";
    line.append(...nodes, "\n");
    line.dataset.depth = line.textContent.search(/\S|$/);
    return line;
  });
  made.forEach((line, place) => {
    const next = made[place + 1];
    if (!next || Number(next.dataset.depth) <= Number(line.dataset.depth)) return;
    const button = document.createElement("button");
    button.type = "button";
    button.className = "fold";
    button.tabIndex = -1;
    button.setAttribute("aria-expanded", "true");
    button.setAttribute("aria-label", "Fold what lies below");
    line.prepend(button);
  });
  pane.replaceChildren(...made);
}

function fold(line, folded) {
  const button = line.querySelector(":scope > .fold");
  if (!button) return;
  button.setAttribute("aria-expanded", String(!folded));
  const depth = Number(line.dataset.depth);
  for (let next = line.nextElementSibling; next && Number(next.dataset.depth) > depth; next = next.nextElementSibling) {
    next.hidden = folded;
    if (!folded) next.querySelector(":scope > .fold")?.setAttribute("aria-expanded", "true");
  }
}

function unfold(pane) {
  for (const line of pane.querySelectorAll(".line[hidden]")) line.hidden = false;
  for (const button of pane.querySelectorAll(".fold")) button.setAttribute("aria-expanded", "true");
}

function prepare(root) {
  for (const pane of root.querySelectorAll("[data-payload] pre.folds:not([data-lines])")) {
    pane.dataset.lines = "yes";
    intoLines(pane);
    const all = box(pane).querySelector("[data-fold-all]");
    if (all) all.hidden = !pane.querySelector(".fold");
  }
  for (const pane of root.querySelectorAll("[data-payload] .payload")) {
    const failing = pane.querySelector("mark.failing");
    if (failing) scrollTo(pane, failing.getBoundingClientRect());
  }
}

export function startPayload() {
  document.addEventListener("click", (event) => {
    const button = event.target.closest(".fold");
    if (button) fold(button.parentElement, button.getAttribute("aria-expanded") === "true");
    const all = event.target.closest("[data-fold-all]");
    if (!all) return;
    const pane = shown(box(all));
    const folding = all.textContent === "Fold";
    unfold(pane);
    if (folding) {
      // The outermost stays open: what it holds is folded.
      const lines = [...pane.querySelectorAll(".line")];
      const least = Math.min(...lines.filter((line) => line.textContent.trim()).map((line) => Number(line.dataset.depth)));
      for (const line of lines) if (!line.hidden && Number(line.dataset.depth) > least) fold(line, true);
    }
    all.textContent = folding ? "Unfold" : "Fold";
  });
  document.addEventListener("input", (event) => {
    if (!event.target.matches?.("[data-find]")) return;
    event.target.dataset.at = -1;
    find(event.target, 1);
  });
  document.addEventListener("keydown", (event) => {
    if (!event.target.matches?.("[data-find]") || event.key !== "Enter") return;
    event.preventDefault();
    find(event.target, event.shiftKey ? -1 : 1);
  });
  document.addEventListener("htmx:afterSettle", (event) => prepare(event.target.parentElement ?? document));
  prepare(document);
}
