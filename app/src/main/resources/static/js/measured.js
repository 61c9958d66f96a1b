// The curves of a component under its picture of time, on the same axis: when that moves they follow, and all are read at one instant.
import uPlot from "../vendor/uplot/uPlot.esm.js";
import { ink, figure } from "./curve-parts.js";

const charts = new Map();
let span = "";
// The instant that is read, in seconds; a curve that comes or is drawn anew meanwhile is read there, too.
let readAt = null;

/** A line breaks where something is missing; what has nothing near it on both sides is a point. */
function line(curve, name, width, dash) {
  const reach = (one, other) => Math.max(curve.reach[one], curve.reach[other]) * 1.001;
  const near = (one, other) => Math.abs(curve.at[one] - curve.at[other]) <= reach(one, other);
  const gaps = (chart, place, first, last, found) => {
    const [at, moment] = [(pixel) => chart.posToIdx(pixel, true), (pixel) => chart.posToVal(pixel, "x", true)];
    return found.filter(([from, to]) => moment(to) - moment(from) > reach(at(from), at(to)));
  };
  const filter = (chart, place) => {
    const heard = chart.data[place].flatMap((value, at) => (value === null ? [] : [at]));
    return heard.filter((at, i) => !(i > 0 && near(heard[i - 1], at)) && !(i + 1 < heard.length && near(at, heard[i + 1])));
  };
  return { stroke: () => ink(name), width, dash, points: { show: false, size: 4, fill: () => ink(name), filter }, spanGaps: false, gaps };
}

function layers(curve) {
  const columns = [curve.at, curve.greatest, curve.least];
  const series = [{}, line(curve, "--accent-soft", 0), line(curve, "--accent-soft", 0)];
  const bands = [{ series: [1, 2], fill: () => ink("--accent-soft") }];
  const add = (column, one) => {
    columns.push(column);
    series.push(one);
    return columns.length - 1;
  };
  if (curve.low.length) {
    const high = add(curve.high, { ...line(curve, "--rule", 1), spanGaps: true });
    const low = add(curve.low, { ...line(curve, "--rule", 1), spanGaps: true });
    bands.push({ series: [high, low], fill: () => ink("--paper") });
  }
  if (curve.before.length) add(curve.before, line(curve, "--accent", 1.2, [4, 3]));
  for (const value of curve.warning) add(curve.at.map(() => value), line(curve, "--warning", 1.2, [6, 4]));
  for (const value of curve.critical) add(curve.at.map(() => value), line(curve, "--critical", 1.2, [2, 3]));
  add(curve.mean, line(curve, "--ink", 1.4));
  return { columns, series, bands };
}

/** The lowest and the highest in the picture. The limits belong into it unless they are so far off that the curve would lie flat. */
function range(curve) {
  const seen = [...curve.least, ...curve.greatest, ...curve.before, ...curve.low, ...curve.high].filter((value) => value !== null);
  let low = Math.min(...seen, Infinity);
  let high = Math.max(...seen, -Infinity);
  if (low > high) [low, high] = [0, 1];
  const wide = Math.max(high - low, Math.abs(high) * 0.05, 1e-9);
  for (const limit of [...curve.warning, ...curve.critical]) {
    if (limit <= high + wide * 2 && limit >= low - wide * 2) {
      low = Math.min(low, limit);
      high = Math.max(high, limit);
    }
  }
  if (low >= 0 && low < (high - low) * 1.5) low = 0;
  return [low, high];
}

const picture = (element) => element.closest(".measured")?.querySelector(".time");

/** Windows are hatched and cases shaded behind the curve, as they stand in the picture above it. */
function behind(chart, element) {
  const { ctx, bbox } = chart;
  const above = picture(element);
  if (!above) return;
  const draw = (piece, colour) => {
    const [x, wide] = [Number(piece.dataset.x), Number(piece.dataset.width)];
    ctx.fillStyle = colour;
    ctx.fillRect(bbox.left + (x / 100) * bbox.width, bbox.top, Math.max(1, (wide / 100) * bbox.width), bbox.height);
  };
  ctx.save();
  ctx.globalAlpha = 0.12;
  for (const piece of above.querySelectorAll(".time-lane:nth-child(2) .hatched")) draw(piece, ink("--held"));
  for (const piece of above.querySelectorAll('[data-lane="cases"] [data-x]:not(.hatched)')) draw(piece, ink("--critical"));
  ctx.restore();
}

/** The place nearest to one at which something was heard that belongs to it; else the place itself. */
function heardNear(curve, at) {
  const empty = (place) => (curve.mean[place] ?? null) === null;
  for (let by = 0; by < curve.at.length; by++) {
    const place = [at - by, at + by].find((one) => !empty(one));
    if (place !== undefined) return Math.abs(curve.at[place] - curve.at[at]) <= curve.reach[place] / 2 ? place : at;
  }
  return at;
}

function reading(curve, cursor) {
  const at = heardNear(curve, cursor);
  const value = (some) => figure(some[at]);
  if (curve.mean[at] === null) return "no data";
  const spread = curve.least[at] === curve.greatest[at] ? "" : ` (${value(curve.least)} to ${value(curve.greatest)})`;
  const before = curve.before.length && curve.before[at] !== null ? `, a week before ${value(curve.before)}` : "";
  return `${value(curve.mean)}${spread} ${curve.unit}`.trimEnd() + before;
}

/** Says what a curve is where its cursor stands; gives back that place, or null where it stands nowhere. */
function say(element) {
  const known = charts.get(element);
  const at = known?.chart.cursor.idx ?? null;
  if (at !== null) element.parentElement.querySelector(".series-reading").textContent = reading(known.curve, at);
  return at;
}

/** Somebody reads this curve, so all others are read there, too. */
function read(element) {
  const at = say(element);
  const known = charts.get(element);
  if (at !== null && element.matches(":hover, :focus")) document.dispatchEvent(new CustomEvent("read-at", { detail: { at: known.curve.at[at], from: element } }));
}

function readThere(element) {
  const { chart, curve } = charts.get(element);
  const inside = readAt >= curve.at[0] && readAt <= curve.at.at(-1);
  chart.setCursor({ left: inside ? chart.valToPos(readAt, "x") : -10, top: 10 }, false);
  say(element);
}

function draw(element, curve) {
  charts.get(element)?.chart.destroy();
  element.replaceChildren();
  const box = element.parentElement;
  const [low, high] = range(curve);
  // A little room above, which is in no figure at its side.
  const top = high + Math.max((high - low) * 0.06, 1e-9);
  const nothing = curve.mean.every((value) => value === null);
  box.querySelector(".top").textContent = nothing ? "" : figure(high);
  box.querySelector(".bottom").textContent = nothing ? "" : figure(low);
  const { least, mean, greatest, last } = curve.figures;
  box.parentElement.querySelector("[data-figures]").textContent = last ? `${last} · ${least}…${greatest}, mean ${mean}` : "nothing heard";
  const { columns, series, bands } = layers(curve);
  const above = picture(element);
  const made = new uPlot({
    width: element.clientWidth,
    height: element.clientHeight,
    padding: [4, 0, 2, 0],
    legend: { show: false },
    axes: [{ show: false }, { show: false }],
    scales: { x: { time: true, range: () => [Number(above.dataset.from) / 1000, Number(above.dataset.to) / 1000] }, y: { range: () => [low, top] } },
    cursor: { drag: { x: true, y: false, setScale: false }, points: { size: 5 } },
    hooks: { setCursor: [() => read(element)], drawClear: [(it) => behind(it, element)], setSelect: [(it) => choose(it, element)] },
    series,
    bands,
  }, columns, element);
  charts.set(element, { chart: made, curve });
  // Its scale is there with its first frame.
  if (readAt !== null) requestAnimationFrame(() => charts.get(element)?.chart === made && readThere(element));
}

/** What is dragged over in a curve is the span of all. */
function choose(chart, element) {
  if (chart.select.width < 6) return;
  const ends = [chart.posToVal(chart.select.left, "x"), chart.posToVal(chart.select.left + chart.select.width, "x")];
  chart.setSelect({ left: 0, top: 0, width: 0, height: 0 }, false);
  document.dispatchEvent(new CustomEvent("span-chosen", { detail: { picture: picture(element), from: ends[0] * 1000, to: ends[1] * 1000 } }));
}

function query(element) {
  const above = picture(element);
  const iso = (at) => encodeURIComponent(new Date(Number(at)).toISOString());
  return `?from=${iso(above.dataset.from)}&to=${iso(above.dataset.to)}`;
}

async function load(element) {
  const wanted = query(element);
  const week = element.closest(".measured").querySelector("[data-week]")?.checked ? "&week=true" : "";
  const row = element.closest(".series-row");
  row.querySelector("[data-csv]").href = `${element.dataset.seriesCurve}.csv${wanted}`;
  const answer = await fetch(element.dataset.seriesCurve + wanted + week, { headers: { "HX-Request": "true" } }).catch(() => null);
  if (!answer?.ok) return;
  const curve = await answer.json();
  // The axis may have moved on meanwhile; then another answer is on its way.
  if (!element.isConnected || wanted !== query(element)) return;
  draw(element, curve);
  element.dataset.drawn = wanted;
  const table = row.querySelector(".series-table");
  if (!table.hidden) fillTable(element, table);
}

async function fillTable(element, table) {
  const answer = await fetch(`${element.dataset.seriesCurve}/table${query(element)}`, { headers: { "HX-Request": "true" } }).catch(() => null);
  if (answer?.ok) table.innerHTML = await answer.text();
}

const shown = new Set();
const watcher = new IntersectionObserver((entries) => {
  for (const { target, isIntersecting } of entries) {
    if (!isIntersecting) {
      shown.delete(target);
      continue;
    }
    shown.add(target);
    if (!charts.has(target) || target.dataset.span !== query(target)) {
      target.dataset.span = query(target);
      load(target);
    }
  }
}, { rootMargin: "120px" });

function follow() {
  const above = document.querySelector(".measured .time");
  if (!above) return;
  for (const [element, known] of charts) {
    if (element.isConnected) continue;
    known.chart.destroy();
    charts.delete(element);
  }
  for (const element of document.querySelectorAll("[data-series-curve]")) watcher.observe(element);
  const now = `${above.dataset.from}-${above.dataset.to}`;
  if (now === span) return;
  span = now;
  for (const element of shown) {
    if (!element.isConnected) continue;
    element.dataset.span = query(element);
    load(element);
  }
}

function reloadAll() {
  span = "";
  follow();
}

function act(event) {
  const button = event.target.closest?.(".series-row button, [data-show-all]");
  if (!button) return;
  const row = button.closest(".series-row");
  const rows = button.closest(".series-rows");
  const element = row?.querySelector("[data-series-curve]");
  if (button.matches("[data-enlarge]")) {
    const large = row.classList.toggle("large");
    button.setAttribute("aria-expanded", large);
    const known = charts.get(element);
    known?.chart.setSize({ width: element.clientWidth, height: element.clientHeight });
  } else if (button.matches("[data-table]")) {
    const table = row.querySelector(".series-table");
    table.hidden = !table.hidden;
    button.setAttribute("aria-expanded", !table.hidden);
    if (!table.hidden) fillTable(element, table);
  } else if (button.matches("[data-hide]")) {
    row.hidden = true;
    rows.querySelector("[data-hidden]").hidden = false;
  } else if (button.matches("[data-show-all]")) {
    for (const one of rows.querySelectorAll(".series-row")) one.hidden = false;
    rows.querySelector("[data-hidden]").hidden = true;
  }
}

export function startMeasured() {
  if (!document.querySelector(".measured")) return;
  follow();
  document.addEventListener("htmx:afterSettle", follow);
  document.addEventListener("fresh", follow);
  document.addEventListener("click", act);
  document.addEventListener("change", (event) => {
    if (event.target.matches("[data-week]")) reloadAll();
  });
  document.addEventListener("paper", () => charts.forEach((known) => known.chart.redraw(false, true)));
  window.addEventListener("resize", () => charts.forEach((known, element) => known.chart.setSize({ width: element.clientWidth, height: element.clientHeight })));
  document.addEventListener("read-at", (event) => {
    readAt = event.detail.at;
    for (const element of charts.keys()) if (element !== event.detail.from && element.isConnected) readThere(element);
  });
  document.addEventListener("keydown", (event) => {
    const known = event.target.matches?.(".series-chart") ? charts.get(event.target) : null;
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!known || !by) return;
    event.preventDefault();
    const at = Math.min(known.curve.at.length - 1, Math.max(0, (known.chart.cursor.idx ?? known.curve.at.length - 1) + by * (event.shiftKey ? 12 : 1)));
    known.chart.setCursor({ left: known.chart.valToPos(known.curve.at[at], "x"), top: 10 });
  });
}
