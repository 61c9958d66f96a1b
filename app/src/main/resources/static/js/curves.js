// Curves against their limits. Hover, or the arrow keys, read all curves of the page at one instant; drag selects a span
// and a double click gives the whole back.
import uPlot from "../vendor/uplot/uPlot.esm.js";
import { chart, layers, reading } from "./curve-parts.js";

const charts = new Map();
const sync = uPlot.sync("page");

function read(element) {
  const words = element.parentElement.querySelector(".curve-reading");
  const known = charts.get(element);
  const at = known?.chart.cursor.idx;
  if (at === null || at === undefined) return;
  if (words) words.textContent = reading(known.curve, at);
  if (element.matches(":hover, :focus")) document.dispatchEvent(new CustomEvent("read-at", { detail: { at: known.curve.times[at], from: element } }));
}

const shape = (curve) => [curve.track.length > 0, curve.low.length > 0, curve.projected.length > 0, curve.warning.length, curve.critical.length].join();

function draw(element, curve) {
  if (curve.times.length === 0) {
    element.textContent = curve.note || "There is no curve for this alert.";
    element.classList.add("nothing");
    return;
  }
  const made = chart(element, curve, {
    curve: () => charts.get(element)?.curve ?? curve,
    options: { cursor: { sync: { key: sync.key }, drag: { x: true, y: false }, points: { size: 6 } }, hooks: { setCursor: [() => read(element)] } },
  });
  charts.set(element, { chart: made, curve });
}

async function load(element) {
  // Asked for as htmx would: whoever is logged out meanwhile gets a plain no, and not the page to log in.
  const answer = await fetch(element.dataset.curve, { headers: { "HX-Request": "true" } }).catch(() => null);
  if (!answer?.ok) return;
  const curve = await answer.json();
  if (!element.isConnected) return;
  const note = element.parentElement.querySelector(".curve-note");
  if (note) note.textContent = curve.note;
  const known = charts.get(element);
  if (!known) return draw(element, curve);
  if (shape(known.curve) !== shape(curve)) {
    known.chart.destroy();
    charts.delete(element);
    return draw(element, curve);
  }
  known.curve = curve;
  known.chart.setData(layers(curve).columns);
}

function loadAll() {
  for (const [element, known] of charts) {
    if (element.isConnected) continue;
    known.chart.destroy();
    charts.delete(element);
  }
  for (const element of document.querySelectorAll("[data-curve]")) if (!charts.has(element) && element.checkVisibility()) load(element);
}

function move(element, by) {
  const { chart: made, curve } = charts.get(element) ?? {};
  if (!made) return;
  const at = Math.min(curve.times.length - 1, Math.max(0, (made.cursor.idx ?? curve.times.length - 1) + by));
  made.setCursor({ left: made.valToPos(curve.times[at], "x"), top: 10 });
}

/** The nearest point of each curve to an instant; none where it lies outside. */
function readAt(at) {
  for (const [element, { chart: made, curve }] of charts) {
    if (!element.isConnected || curve.times.length === 0) continue;
    const inside = at >= curve.times[0] && at <= curve.times.at(-1);
    made.setCursor({ left: inside ? made.valToPos(at, "x") : -10, top: 10 }, false);
    read(element);
  }
}

export function startCurves() {
  loadAll();
  document.addEventListener("read-at", (event) => {
    if (!event.detail.from.matches(".curve")) readAt(event.detail.at);
  });
  document.addEventListener("htmx:afterSettle", loadAll);
  document.addEventListener("fresh", loadAll);
  document.addEventListener("toggle", loadAll, true);
  document.addEventListener("changed", (event) => {
    if (["cases", "*"].includes(event.detail)) for (const element of charts.keys()) if (element.isConnected) load(element);
  });
  document.addEventListener("paper", () => charts.forEach((known) => known.chart.redraw(false, true)));
  window.addEventListener("resize", () => charts.forEach((known, element) => known.chart.setSize({ width: element.clientWidth, height: element.clientHeight })));
  document.addEventListener("keydown", (event) => {
    if (!event.target.matches?.(".curve")) return;
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by) {
      move(event.target, by * (event.shiftKey ? 12 : 1));
      event.preventDefault();
    }
  });
}
