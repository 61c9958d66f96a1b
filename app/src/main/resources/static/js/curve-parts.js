// What all curves share: ink from the page, the columns that the chart wants, and a range that shows the limits.
import uPlot from "../vendor/uplot/uPlot.esm.js";

export const ink = (name) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
const figures = new Intl.NumberFormat("en-GB", { maximumSignificantDigits: 4 });
export const figure = (value) => (value === null || value === undefined ? "no data" : figures.format(value));

const line = (label, name, width, dash) => ({ label, stroke: () => ink(name), width, dash, points: { show: false }, spanGaps: false });

const HEIGHTS = { steady: 0, notice: 0.35, warning: 0.62, critical: 1 };

/** What a component was in, as a strip: a line for good words, a block for bad ones, dashes while it is not known; words where there is room. */
function strip(chart, curve, small) {
  const { ctx, bbox } = chart;
  const pixel = devicePixelRatio;
  const floor = bbox.top + bbox.height - pixel;
  const room = bbox.height - (small ? 2 : 18) * pixel;
  ctx.save();
  ctx.beginPath();
  ctx.rect(bbox.left, bbox.top, bbox.width, bbox.height);
  ctx.clip();
  ctx.font = `${12 * pixel}px Atkinson Hyperlegible Next`;
  ctx.textAlign = "left";
  ctx.textBaseline = "alphabetic";
  for (const one of curve.track) {
    const left = chart.valToPos(one.from, "x", true);
    const width = Math.max(1.5 * pixel, chart.valToPos(one.to, "x", true) - left);
    if (left + width < bbox.left || left > bbox.left + bbox.width) continue;
    const height = (HEIGHTS[one.mark] ?? 0) * room;
    const colour = ink(height ? `--${one.mark}` : "--steady");
    if (height) {
      ctx.fillStyle = colour;
      ctx.fillRect(left, floor - height, width, height);
    } else {
      ctx.strokeStyle = colour;
      ctx.lineWidth = 1.5 * pixel;
      ctx.setLineDash(one.mark === "nodata" ? [4 * pixel, 4 * pixel] : []);
      ctx.beginPath();
      ctx.moveTo(left, floor);
      ctx.lineTo(left + width, floor);
      ctx.stroke();
    }
    const start = Math.max(left, bbox.left) + 4 * pixel;
    const end = Math.min(left + width, bbox.left + bbox.width);
    if (small || ctx.measureText(one.word).width > end - start - 4 * pixel) continue;
    ctx.fillStyle = height ? ink("--sheet") : ink("--ink-soft");
    ctx.fillText(one.word, start, height ? floor - height + 15 * pixel : floor - 6 * pixel);
  }
  ctx.restore();
}

/** One column for each thing that is drawn, and how it is drawn. */
export function layers(curve) {
  if (curve.track.length) return { columns: [curve.times, curve.values], series: [{}, { ...line(curve.name, "--ink", 0), paths: () => null }], bands: [] };
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
  if (curve.track.length) return [0, curve.track.length];
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
    curve.track.length ? { show: false } : { ...axis, size: 50, space: (_made, _axis, _low, _high, height) => (height < 120 ? 18 : 30), values: (_, splits) => splits.map(figure) },
  ];
}

export function when(curve, at) {
  return new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", timeZone: curve.zone }).format(new Date(at * 1000));
}

export function reading(curve, at) {
  const state = curve.track[curve.values[at]];
  if (state) return `${when(curve, curve.times[at])}: ${state.word}, since ${when(curve, state.from)}`;
  const usual = curve.low.length && curve.low[at] !== null ? `, usual ${figure(curve.low[at])} to ${figure(curve.high[at])}` : "";
  const heading = curve.projected.length && curve.projected[at] !== null;
  const value = heading ? `${figure(curve.projected[at])} ${curve.unit} if it goes on so` : `${figure(curve.values[at])} ${curve.unit}`.trimEnd();
  return `${when(curve, curve.times[at])}: ${value} ${curve.name}${usual}`;
}

export function chart(element, curve, more = {}) {
  const options = { ...more.options };
  if (curve.track.length) {
    options.hooks = { ...options.hooks, draw: [(it) => strip(it, more.curve?.() ?? curve, more.small)] };
    options.cursor = { ...options.cursor, points: { show: false } };
  }
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
    ...options,
  }, columns, element);
}
