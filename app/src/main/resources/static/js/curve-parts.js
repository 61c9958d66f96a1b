// What all curves share: ink from the page, the columns that the chart wants, and a range that shows the limits.
import uPlot from "/vendor/uplot/uPlot.esm.js";

export const ink = (name) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
const figures = new Intl.NumberFormat("en-GB", { maximumSignificantDigits: 4 });
export const figure = (value) => (value === null || value === undefined ? "no data" : figures.format(value));

const line = (label, name, width, dash) => ({ label, stroke: () => ink(name), width, dash, points: { show: false }, spanGaps: false });

/** One column for each thing that is drawn, and how it is drawn. */
export function layers(curve) {
  const flat = (value) => curve.times.map(() => value);
  const columns = [curve.times];
  const series = [{}];
  const bands = [];
  if (curve.low.length) {
    columns.push(curve.high, curve.low);
    series.push({ ...line("usual, up to", "--rule", 1), spanGaps: true }, { ...line("usual, from", "--rule", 1), spanGaps: true });
    bands.push({ series: [1, 2], fill: () => ink("--accent-soft") });
  }
  columns.push(curve.values);
  const raw = curve.low.length || curve.projected.length;
  series.push({ ...line(curve.name, "--ink", 1.5), paths: raw ? undefined : uPlot.paths.stepped({ align: 1 }), fill: raw ? undefined : () => ink("--accent-soft") });
  if (curve.projected.length) {
    columns.push(curve.projected);
    series.push(line("heading", "--accent", 1.8, [3, 3]));
  }
  for (const value of curve.warning) {
    columns.push(flat(value));
    series.push(line("warning limit", "--warning", 1.4, [6, 4]));
  }
  for (const value of curve.critical) {
    columns.push(flat(value));
    series.push(line("critical limit", "--critical", 1.4, [2, 3]));
  }
  return { columns, series, bands };
}

/** The limits belong into the picture unless they are so far off that the curve would lie flat. */
export function range(curve) {
  const seen = [...curve.values, ...curve.low, ...curve.high, ...curve.projected].filter((value) => value !== null);
  let low = Math.min(...seen, Infinity);
  let high = Math.max(...seen, -Infinity);
  if (low > high) [low, high] = [0, 1];
  const span = Math.max(high - low, Math.abs(high) * 0.05, 1e-9);
  for (const limit of [...curve.warning, ...curve.critical]) {
    if (limit <= high + span * 3 && limit >= low - span * 3) {
      low = Math.min(low, limit);
      high = Math.max(high, limit);
    }
  }
  if (low >= 0 && low < (high - low) * 1.5) low = 0;
  const room = Math.max((high - low) * 0.07, Math.abs(high) * 0.01, 1e-9);
  return [low === 0 ? 0 : low - room, high + room];
}

export function axes(curve, small) {
  if (small) return [{ show: false }, { show: false }];
  const axis = { stroke: () => ink("--ink-soft"), grid: { stroke: () => ink("--rule"), width: 1 }, ticks: { show: false }, font: "12px Atkinson Hyperlegible Next" };
  const span = curve.times.length > 1 ? curve.times.at(-1) - curve.times[0] : 0;
  const long = span > 2 * 86400;
  const parts = !long ? { hour: "2-digit", minute: "2-digit" } : span < 21 * 86400 ? { weekday: "short", day: "numeric" } : { day: "numeric", month: "short" };
  const words = new Intl.DateTimeFormat("en-GB", { ...parts, timeZone: curve.zone });
  return [
    { ...axis, space: 76, size: 26, incrs: long ? [86400, 2 * 86400, 7 * 86400, 28 * 86400] : undefined, values: (_, splits) => splits.map((at) => words.format(new Date(at * 1000))) },
    { ...axis, size: 50, values: (_, splits) => splits.map(figure) },
  ];
}

export function when(curve, at) {
  return new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", timeZone: curve.zone }).format(new Date(at * 1000));
}

export function reading(curve, at) {
  const usual = curve.low.length && curve.low[at] !== null ? `, usual ${figure(curve.low[at])} to ${figure(curve.high[at])}` : "";
  const heading = curve.projected.length && curve.projected[at] !== null;
  const value = heading ? `${figure(curve.projected[at])} ${curve.unit} if it goes on so` : `${figure(curve.values[at])} ${curve.unit}`.trimEnd();
  return `${when(curve, curve.times[at])}: ${value} ${curve.name}${usual}`;
}

export function chart(element, curve, more = {}) {
  const { columns, series, bands } = layers(curve);
  return new uPlot({
    width: element.clientWidth,
    height: element.clientHeight,
    tzDate: (seconds) => uPlot.tzDate(new Date(seconds * 1000), curve.zone),
    legend: { show: false },
    scales: { y: { range: () => range(more.curve?.() ?? curve) } },
    axes: axes(curve, more.small),
    series,
    bands,
    ...more.options,
  }, columns, element);
}
