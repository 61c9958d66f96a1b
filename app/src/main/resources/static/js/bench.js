// The bench: the curve of what a guard watches, with limits that can be dragged, and what the guard as edited would have
// done. The server replays; here a limit follows the hand at once, and the figures follow within a moment.
import { chart, figure, reading, ink } from "./curve-parts.js";

const NEAR = 7;
let bench, form, picture, drawn, small = [], asked = 0, waiting, dragging, lost;

const part = (name) => bench.querySelector(`[data-bench-${name}]`);
const kind = () => form.querySelector("input[name=kind]:checked")?.value;
const field = (name) => form.elements[name];

/** The fields that hold what can be dragged, each with what it is. */
function handles() {
  if (kind() === "silence") return [{ name: "missedWarning", of: "warning" }, { name: "missedCritical", of: "critical" }];
  if (kind() === "trend") return [{ name: "target", of: "critical" }];
  if (kind() === "band") return [{ name: "width", of: "width" }];
  if (kind() === "combination" || kind() === "state") return [];
  const both = [{ name: "warning", of: "warning", place: 0 }, { name: "critical", of: "critical", place: 0 }];
  if (field("side")?.value === "outside") both.push({ name: "warningHigh", of: "warning", place: 1 }, { name: "criticalHigh", of: "critical", place: 1 });
  return both;
}

const number = (name) => {
  const text = field(name)?.value.trim().replace(",", ".");
  return text ? Number(text) : NaN;
};

function values(withCurves) {
  const data = new FormData(form);
  data.set("days", part("days").value);
  data.set("show", part("show").value);
  data.set("subject", picture ? (part("subject").value ?? "") : "");
  if (!withCurves) data.set("curves", "no");
  return new URLSearchParams(data);
}

async function fetchPicture(withCurves) {
  const mine = ++asked;
  if (!dragging) setTimeout(() => mine === asked && !done && (part("took").textContent = "replaying …"), 250);
  let done = false;
  const begun = performance.now();
  const token = document.cookie.split("; ").find((one) => one.startsWith("XSRF-TOKEN="))?.slice(11);
  const answer = await fetch("/guards/picture", { method: "POST", body: values(withCurves), headers: { "HX-Request": "true", "X-XSRF-TOKEN": decodeURIComponent(token ?? "") } }).catch(() => null);
  if (mine !== asked || !answer?.ok) return;
  const fresh = await answer.json();
  done = true;
  if (mine !== asked) return;
  part("took").textContent = fresh.readable ? `replayed in ${Math.round(performance.now() - begun)} ms` : "";
  show(fresh);
}

/** Many changes in a moment are one question; while a limit is dragged one is asked again and again. */
function ask(withCurves, after = 60) {
  lost = lost || withCurves;
  clearTimeout(waiting);
  waiting = setTimeout(() => {
    fetchPicture(lost);
    lost = false;
  }, after);
}

function show(fresh) {
  const before = picture;
  picture = fresh;
  if (!fresh.readable) return tallies();
  if (fresh.drawn.length === 0 && before?.drawn.length && fresh.draggable) picture.drawn = before.drawn;
  else draw();
  const one = picture.drawn[0];
  if (one && part("show").value === "one" && [...part("subject").options].some((it) => it.value === String(one.series))) part("subject").value = one.series;
  markAlerts();
  tallies();
  // What has no limits has none to propose.
  part("propose").hidden = !fresh.draggable;
  alerts();
  part("doubts").textContent = [...fresh.doubts, fresh.left].filter(Boolean).join(" ");
}

function draw() {
  const all = part("show").value === "all";
  const box = part("curve");
  const multiples = part("multiples");
  const one = bench.querySelector(".bench-one");
  box.hidden = all;
  one.hidden = all;
  multiples.hidden = !all;
  part("reading").textContent = "";
  drawn?.destroy();
  drawn = null;
  small.forEach((it) => it.destroy());
  small = [];
  if (picture.drawn.length === 0) {
    box.classList.add("nothing");
    box.dataset.words = kind() === "combination" ? "A combination has no curve of its own; its members have." : "It matches nothing, so there is no curve.";
    return;
  }
  box.classList.remove("nothing");
  if (all) drawMultiples(multiples);
  else drawOne(box, picture.drawn[0]);
}

function drawOne(box, one) {
  const curve = one.curve;
  if (curve.times.length < 2) {
    box.classList.add("nothing");
    box.dataset.words = "Nothing was heard of it in this time.";
    return;
  }
  part("reading").textContent = curve.note;
  drawn = chart(box, curve, {
    curve: () => picture.drawn[0].curve,
    options: {
      cursor: { drag: { x: true, y: false, setScale: true }, points: { size: 6 } },
      hooks: {
        setCursor: [(it) => it.cursor.idx !== null && it.cursor.idx !== undefined && (part("reading").textContent = reading(picture.drawn[0].curve, it.cursor.idx) + (curve.note ? ` · ${curve.note}` : ""))],
        drawClear: [(it) => shade(it, one.series)],
      },
    },
  });
  drawn.over.addEventListener("mousemove", (event) => dragging || (drawn.over.style.cursor = near(event.offsetY) ? "ns-resize" : "crosshair"));
  drawn.over.addEventListener("mousedown", grab, true);
  level();
}

function drawMultiples(box) {
  box.replaceChildren();
  for (const one of picture.drawn) {
    const cell = document.createElement("button");
    cell.type = "button";
    cell.className = "multiple";
    cell.dataset.series = one.series;
    const name = document.createElement("span");
    name.className = "multiple-name";
    name.textContent = one.name;
    const count = document.createElement("span");
    count.className = "multiple-count soft";
    const curve = document.createElement("span");
    curve.className = "multiple-curve";
    cell.append(name, count, curve);
    box.append(cell);
    if (one.curve.times.length < 2) continue;
    small.push(chart(curve, one.curve, { small: true, options: { cursor: { show: false }, hooks: { drawClear: [(it) => shade(it, one.series)] } } }));
  }
}

/** The stretches in which the guard would have been up lie behind the curve. */
function shade(it, series) {
  const { ctx, bbox } = it;
  ctx.save();
  hatch(it, picture.drawn.find((one) => one.series === series)?.windows ?? []);
  for (const alert of picture.alerts) {
    if (alert.series !== series) continue;
    const left = Math.max(bbox.left, it.valToPos(alert.from, "x", true));
    const right = Math.min(bbox.left + bbox.width, Math.max(left + 2 * devicePixelRatio, it.valToPos(alert.to, "x", true)));
    if (right < bbox.left || left > bbox.left + bbox.width) continue;
    ctx.globalAlpha = 0.22;
    ctx.fillStyle = ink(`--${alert.level}`);
    ctx.fillRect(left, bbox.top, right - left, bbox.height);
    ctx.globalAlpha = 1;
    ctx.fillRect(left, bbox.top + bbox.height - 3 * devicePixelRatio, right - left, 3 * devicePixelRatio);
  }
  ctx.restore();
}

/** Planned work: what is raised in it would have been held. */
function hatch(it, windows) {
  const { ctx, bbox } = it;
  ctx.strokeStyle = ink("--held");
  ctx.lineWidth = devicePixelRatio;
  for (const one of windows) {
    const left = Math.max(bbox.left, it.valToPos(one.from, "x", true));
    const right = Math.min(bbox.left + bbox.width, Math.max(left + 3 * devicePixelRatio, it.valToPos(one.to, "x", true)));
    if (right <= bbox.left || left >= bbox.left + bbox.width) continue;
    ctx.save();
    ctx.globalAlpha = 0.45;
    ctx.beginPath();
    ctx.rect(left, bbox.top, right - left, bbox.height);
    ctx.clip();
    ctx.beginPath();
    for (let x = left - bbox.height; x < right; x += 6 * devicePixelRatio) {
      ctx.moveTo(x, bbox.top + bbox.height);
      ctx.lineTo(x + bbox.height, bbox.top);
    }
    ctx.stroke();
    ctx.restore();
  }
}

function markAlerts() {
  drawn?.redraw(false, false);
  small.forEach((it) => it.redraw(false, false));
  for (const cell of part("multiples").querySelectorAll(".multiple")) {
    const count = picture.alerts.filter((alert) => alert.series === Number(cell.dataset.series)).length;
    cell.querySelector(".multiple-count").textContent = count === 0 ? "calm" : `${count} alert${count === 1 ? "" : "s"}`;
  }
}

/** Where each handle stands on the chart, in pixels from the top. */
function positions() {
  const curve = picture?.drawn[0]?.curve;
  if (!drawn || !curve) return [];
  const found = [];
  for (const handle of handles()) {
    const value = number(handle.name);
    if (Number.isNaN(value)) continue;
    if (handle.of !== "width") found.push({ handle, y: drawn.valToPos(value, "y") });
    else {
      const at = drawn.cursor.idx ?? lastUsual(curve);
      if (at === null || curve.high[at] === null || curve.high[at] === undefined) continue;
      found.push({ handle, y: drawn.valToPos(curve.high[at], "y") }, { handle, y: drawn.valToPos(curve.low[at], "y") });
    }
  }
  return found;
}

function lastUsual(curve) {
  for (let at = curve.high.length - 1; at >= 0; at--) if (curve.high[at] !== null) return at;
  return null;
}

const near = (y) => positions().filter((one) => Math.abs(one.y - y) <= NEAR).sort((a, b) => Math.abs(a.y - y) - Math.abs(b.y - y))[0]?.handle;

function grab(event) {
  const handle = near(event.offsetY);
  if (!handle) return;
  event.stopImmediatePropagation();
  event.preventDefault();
  dragging = handle;
  const top = drawn.over.getBoundingClientRect().top;
  const at = drawn.cursor.idx;
  const move = (moved) => set(handle, valueAt(moved.clientY - top, handle, at));
  const drop = () => {
    dragging = null;
    removeEventListener("mousemove", move);
    removeEventListener("mouseup", drop);
    settled(handle);
  };
  addEventListener("mousemove", move);
  addEventListener("mouseup", drop);
}

function valueAt(y, handle, at) {
  const value = drawn.posToVal(y, "y");
  if (handle.of !== "width") return round(value);
  const curve = picture.drawn[0].curve;
  const place = at ?? lastUsual(curve);
  const middle = (curve.high[place] + curve.low[place]) / 2;
  const spread = (curve.high[place] - curve.low[place]) / 2 / Math.max(number("width"), 0.1);
  return Math.max(0.5, Math.round((Math.abs(value - middle) / spread) * 2) / 2);
}

/** To a step that a hand can mean: about a two-hundredth of what is shown. */
function step() {
  if (kind() === "band") return 0.5;
  const shown = drawn ? drawn.scales.y.max - drawn.scales.y.min : 100;
  const power = Math.pow(10, Math.floor(Math.log10(shown / 100)));
  return kind() === "silence" ? 1 : shown / 100 / power >= 5 ? power * 5 : power;
}

function round(value) {
  const by = step();
  return Number((Math.round(value / by) * by).toPrecision(8));
}

/** A limit moves: its field, its line, and soon the figures. */
function set(handle, value) {
  field(handle.name).value = String(value);
  const curve = picture.drawn[0]?.curve;
  if (curve && handle.of !== "width" && curve[handle.of]) {
    curve[handle.of][handle.place ?? 0] = value;
    line(handle, value);
  } else if (curve && handle.of === "width") {
    const before = curve.widthShown ?? picture.widthShown ?? value;
    widen(curve, value / before);
    picture.widthShown = value;
  }
  level();
  ask(false, 30);
}

function line(handle, value) {
  if (!drawn) return;
  const label = `${handle.of} limit`;
  const place = drawn.series.map((one, at) => (one.label === label ? at : -1)).filter((at) => at >= 0)[handle.place ?? 0];
  if (place === undefined) return;
  const data = drawn.data.slice();
  data[place] = data[0].map(() => value);
  drawn.setData(data, false);
  drawn.redraw(false, false);
}

function widen(curve, by) {
  for (let at = 0; at < curve.high.length; at++) {
    if (curve.high[at] === null) continue;
    const middle = (curve.high[at] + curve.low[at]) / 2;
    const half = ((curve.high[at] - curve.low[at]) / 2) * by;
    curve.high[at] = middle + half;
    curve.low[at] = middle - half;
  }
  if (!drawn) return;
  const data = drawn.data.slice();
  data[1] = curve.high;
  data[2] = curve.low;
  drawn.setData(data, false);
  drawn.redraw(false, false);
}

function settled(handle) {
  field(handle.name).dispatchEvent(new Event("input", { bubbles: true }));
}

/** What the slider says to those who hear it. */
function level() {
  const box = part("curve");
  const first = handles()[0];
  const value = first ? number(first.name) : NaN;
  box.setAttribute("aria-valuenow", Number.isNaN(value) ? 0 : value);
  box.setAttribute("aria-valuetext", handles().map((one) => `${one.of} ${field(one.name)?.value || "none"}`).join(", "));
  if (kind() === "band" && picture) picture.widthShown = number("width");
}

function keys(event) {
  const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
  const across = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (across && drawn) {
    const curve = picture.drawn[0].curve;
    const at = Math.min(curve.times.length - 1, Math.max(0, (drawn.cursor.idx ?? curve.times.length - 1) + across * (event.shiftKey ? 12 : 1)));
    drawn.setCursor({ left: drawn.valToPos(curve.times[at], "x"), top: 10 });
    event.preventDefault();
  }
  if (!by || !drawn) return;
  const all = handles();
  const handle = event.altKey && all.length > 1 ? all[1] : all[0];
  if (!handle) return;
  event.preventDefault();
  event.stopPropagation();
  const now = number(handle.name);
  set(handle, round((Number.isNaN(now) ? 0 : now) + by * step() * (event.shiftKey ? 10 : 1)));
  settled(handle);
}

const cell = (text, number) => {
  const made = document.createElement("td");
  made.textContent = text;
  if (number) made.className = "num";
  return made;
};

function tallies() {
  for (const which of ["edited", "inForce"]) {
    const row = bench.querySelector(`[data-tally=${which}]`);
    const tally = picture[which];
    row.querySelectorAll("td").forEach((old) => old.remove());
    if (!tally) {
      const none = cell(picture.readable ? (which === "inForce" ? "none yet" : "") : "The sentence cannot be read yet.");
      none.colSpan = 7;
      none.className = "soft";
      row.append(none);
      continue;
    }
    row.append(...[tally.alertsAWeek, tally.critical, tally.timeInAlert, tally.flaps, tally.caught, tally.missed, tally.falseCalls].map((value) => cell(String(value), true)));
  }
  const edited = picture.edited;
  const missed = part("missed");
  missed.replaceChildren();
  if (!edited) return;
  if (edited.missedOnes.length) {
    missed.append("Missed: ");
    edited.missedOnes.forEach((one, at) => {
      const link = document.createElement("a");
      link.href = `/cases/${one.id}`;
      link.textContent = one.words;
      missed.append(at ? "; " : "", link);
    });
    missed.append(". ");
  }
  if (edited.unjudged) missed.append(`On ${edited.unjudged} of its alerts nobody has settled a case.`);
}

function alerts() {
  const body = part("alerts");
  body.replaceChildren();
  for (const alert of picture.alerts) {
    const row = document.createElement("tr");
    const mark = document.createElement("td");
    mark.innerHTML = `<svg class="relief relief-${alert.level}" role="img" aria-label="${alert.level}"><use href="#mark-${alert.level}"></use></svg>`;
    row.append(mark, cell(alert.subject), cell(alert.start), cell(alert.end + (alert.flapped ? ", came and went" : "") + (alert.held ? `, held by “${alert.held}”` : "")), cell(alert.lasted, true), cell(alert.worst, true));
    body.append(row);
  }
  const count = picture.edited?.alerts ?? 0;
  part("count").textContent = count === 0 ? "nothing" : `${count} alert${count === 1 ? "" : "s"}, the latest first${picture.more ? `; ${picture.more} more` : ""}`;
}

/** The list of subjects follows the match; what was chosen stays chosen. */
function subjects(fresh) {
  const list = part("subject");
  const chosen = list.value;
  const known = [...list.options].map((one) => one.value).join();
  const next = fresh.map((one) => one.id).join();
  if (known === next) return;
  const shown = chosen || String(picture?.drawn[0]?.series ?? "");
  list.replaceChildren(...fresh.map((one) => new Option(one.name, one.id, false, String(one.id) === shown)));
}

async function listSubjects() {
  const token = document.cookie.split("; ").find((one) => one.startsWith("XSRF-TOKEN="))?.slice(11);
  const answer = await fetch("/guards/subjects", { method: "POST", body: values(false), headers: { "HX-Request": "true", "X-XSRF-TOKEN": decodeURIComponent(token ?? "") } }).catch(() => null);
  if (answer?.ok) subjects(await answer.json());
}

function take(button) {
  for (const which of ["warning", "critical"]) {
    const into = field(button.dataset[`${which}Field`]);
    if (into) into.value = button.dataset[which] ?? "";
  }
  field(button.dataset.warningField).dispatchEvent(new Event("input", { bubbles: true }));
  ask(true, 0);
}

export function startBench() {
  bench = document.querySelector("[data-bench]");
  if (!bench) return;
  form = document.getElementById("guard-form");
  const changed = (event) => {
    if (dragging || event.target.closest("textarea, #name, #owner")) return;
    ask(true, 250);
    if (event.target.closest("[name=measure], [name=tier], [name=component], [name=application], [name=pattern], [name=environment], [name=group], [name=onIt], [name=label], [name=labelValue], [name^=member]")) listSubjects();
  };
  form.addEventListener("input", changed);
  form.addEventListener("change", changed);
  document.addEventListener("htmx:afterSettle", (event) => {
    if (event.target.id === "sentence" || document.getElementById("sentence") === event.detail?.elt) {
      ask(true, 0);
      listSubjects();
      window.htmx.trigger(document.getElementById("sentence").parentElement, "sentence-changed");
    }
  });
  for (const name of ["show", "days", "subject"]) part(name).addEventListener("change", () => ask(true, 0));
  part("curve").addEventListener("keydown", keys);
  part("multiples").addEventListener("click", (event) => {
    const one = event.target.closest(".multiple");
    if (!one) return;
    part("subject").value = one.dataset.series;
    part("show").value = "one";
    ask(true, 0);
    part("curve").focus();
  });
  bench.addEventListener("click", (event) => {
    const button = event.target.closest("[data-take-limits]");
    if (button) take(button);
  });
  document.addEventListener("paper", () => picture && draw());
  addEventListener("resize", () => picture && draw());
  listSubjects();
  ask(true, 0);
}
