// Curves against their limits. Hover, or the arrow keys, read all curves of the page at one instant; drag selects a span
// and a double click gives the whole back.
import uPlot from "/vendor/uplot/uPlot.esm.js";

const charts = new Map();
const sync = uPlot.sync("page");
const ink = (name) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
const number = new Intl.NumberFormat("en-GB", { maximumFractionDigits: 1 });

function line(label, name, width, dash) {
  return { label, stroke: () => ink(name), width, dash, points: { show: false }, spanGaps: true };
}

function columns(curve) {
  const flat = (limit) => curve.times.map(() => limit);
  const data = [curve.times, curve.values];
  if (curve.warning !== null) data.push(flat(curve.warning));
  if (curve.critical !== null) data.push(flat(curve.critical));
  return data;
}

/** The limits belong into the picture unless they are so far off that the curve would lie flat on the ground. */
function range(curve) {
  const top = Math.max(1, ...curve.values);
  const limits = [curve.warning, curve.critical].filter((limit) => limit !== null && limit <= top * 4);
  return [0, Math.max(top, ...limits) * 1.08];
}

function reading(element, chart, curve) {
  const words = element.parentElement.querySelector(".curve-reading");
  const at = chart.cursor.idx;
  if (!words || at === null || at === undefined) return;
  const when = new Intl.DateTimeFormat("en-GB", { weekday: "short", hour: "2-digit", minute: "2-digit", second: "2-digit", timeZone: curve.zone });
  words.textContent = `${when.format(new Date(curve.times[at] * 1000))}: ${number.format(curve.values[at])} ${curve.name}`;
}

function draw(element, curve) {
  const series = [{}, { ...line(curve.name, "--ink", 1.6), paths: uPlot.paths.stepped({ align: 1 }), fill: () => ink("--accent-soft") }];
  if (curve.warning !== null) series.push(line("warning limit", "--warning", 1.4, [6, 4]));
  if (curve.critical !== null) series.push(line("critical limit", "--critical", 1.4, [2, 3]));
  const axis = { stroke: () => ink("--ink-soft"), grid: { stroke: () => ink("--rule"), width: 1 }, ticks: { show: false }, font: "12px Atkinson Hyperlegible Next" };
  const hours = { hour: "2-digit", minute: "2-digit", timeZone: curve.zone };
  const chart = new uPlot({
    width: element.clientWidth,
    height: element.clientHeight,
    tzDate: (seconds) => uPlot.tzDate(new Date(seconds * 1000), curve.zone),
    legend: { show: false },
    cursor: { sync: { key: sync.key }, drag: { x: true, y: false }, points: { size: 6 } },
    scales: { y: { range: () => range(charts.get(element)?.curve ?? curve) } },
    axes: [
      { ...axis, space: 70, size: 26, values: (_, splits) => splits.map((at) => new Intl.DateTimeFormat("en-GB", hours).format(new Date(at * 1000))) },
      { ...axis, size: 46, incrs: [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 50000, 100000] },
    ],
    series,
    hooks: { setCursor: [(it) => reading(element, it, charts.get(element)?.curve ?? curve)] },
  }, columns(curve), element);
  charts.set(element, { chart, curve });
}

async function load(element) {
  const answer = await fetch(element.dataset.curve).catch(() => null);
  if (!answer?.ok) return;
  const curve = await answer.json();
  if (!element.isConnected) return;
  const known = charts.get(element);
  if (!known) return draw(element, curve);
  known.curve = curve;
  known.chart.setData(columns(curve));
}

function loadAll() {
  for (const [element, { chart }] of charts) {
    if (element.isConnected) continue;
    chart.destroy();
    charts.delete(element);
  }
  for (const element of document.querySelectorAll("[data-curve]")) if (!charts.has(element) && element.checkVisibility()) load(element);
}

function move(element, by) {
  const { chart, curve } = charts.get(element) ?? {};
  if (!chart) return;
  const at = Math.min(curve.times.length - 1, Math.max(0, (chart.cursor.idx ?? curve.times.length - 1) + by));
  chart.setCursor({ left: chart.valToPos(curve.times[at], "x"), top: 10 });
}

export function startCurves() {
  loadAll();
  document.addEventListener("htmx:afterSettle", loadAll);
  document.addEventListener("fresh", loadAll);
  document.addEventListener("toggle", loadAll, true);
  document.addEventListener("changed", (event) => {
    if (event.detail === "cases") for (const element of charts.keys()) if (element.isConnected) load(element);
  });
  document.addEventListener("paper", () => charts.forEach(({ chart }) => chart.redraw(false, true)));
  window.addEventListener("resize", () => charts.forEach(({ chart }, element) => chart.setSize({ width: element.clientWidth, height: element.clientHeight })));
  document.addEventListener("keydown", (event) => {
    if (!event.target.matches?.(".curve")) return;
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by) {
      move(event.target, by * (event.shiftKey ? 12 : 1));
      event.preventDefault();
    }
  });
}
