// Pictures of time: hover, or what a curve is read at, reads all tracks at one instant; drag selects a span; keys and the wheel move and zoom.

import { serverNow } from "./frame.js";

const NEAR = 6;

const parts = (picture) => ({
  from: Number(picture.dataset.from),
  to: Number(picture.dataset.to),
  lanes: picture.querySelector(".time-lanes"),
  strip: picture.querySelector(".time-axis svg"),
  cursor: picture.querySelector(".time-cursor"),
  reading: picture.querySelector(".time-reading"),
});

function when(picture, at) {
  return new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", timeZone: picture.dataset.zone }).format(new Date(at));
}

/** What each track says at a place, in per cent of the width. */
function said(picture, place, width) {
  const near = (NEAR / width) * 100;
  const words = [];
  for (const piece of picture.querySelectorAll(".time-track [data-x]")) {
    const x = Number(piece.dataset.x);
    const wide = Number(piece.dataset.width);
    const room = wide > 0 ? 0 : near;
    if (place >= x - room && place <= x + wide + room) words.push(piece.dataset.words);
  }
  return words;
}

function show(picture, at) {
  const { from, to, lanes, strip, cursor, reading } = parts(picture);
  const outside = at < from || at > to;
  cursor.hidden = outside;
  if (outside) return;
  const box = strip.getBoundingClientRect();
  const place = (at - from) / (to - from);
  cursor.style.left = `${box.left - lanes.getBoundingClientRect().left + place * box.width}px`;
  const words = said(picture, place * 100, box.width);
  reading.textContent = `${when(picture, at)}${words.length ? `: ${words.join(" · ")}` : ""}`;
}

function instantAt(picture, clientX) {
  const { from, to, strip } = parts(picture);
  const box = strip.getBoundingClientRect();
  const place = Math.min(1, Math.max(0, (clientX - box.left) / box.width));
  return from + place * (to - from);
}

/** What is done to a picture while another is fetched in its place is done to that, by id. */
const waiting = new Map();
const MOST_WAIT = 2;

function act(picture, how) {
  const waits = waiting.get(picture.id);
  if (!waits) return how(picture);
  // A key that is held down is let go of in the end, and what was done last counts.
  if (waits.length === MOST_WAIT) waits.pop();
  waits.push(how);
}

/** Where the keys are in a picture: at its tracks, or at a link that moves it. */
function keysAt(picture) {
  const at = document.activeElement;
  if (!picture.contains(at)) return null;
  const move = at.dataset.timeMove;
  return move ? `[data-time-move="${move}"]` : ".time-lanes";
}

/** Fetched in place of what is there; the keys stay where they were. */
function go(picture, address) {
  const { id } = picture;
  const keys = keysAt(picture);
  waiting.set(id, []);
  window.htmx.ajax("GET", address, { target: `#${id}`, swap: "outerHTML" }).catch(() => null).then(() => {
    const acts = waiting.get(id);
    waiting.delete(id);
    const fresh = document.getElementById(id);
    // What shows the whole is gone once it is shown.
    if (keys) (fresh?.querySelector(keys) ?? fresh?.querySelector(".time-lanes"))?.focus();
    if (fresh) acts.forEach((how) => act(fresh, how));
  });
}

const ENDS = ["from", "to"];

/** The address of the page that a picture belongs to: where it stands beside a list of many, that of its row. */
function addressOf(picture) {
  const { pathname } = new URL(picture.dataset.page, window.location.href);
  const row = document.querySelector(".row-link[aria-current]");
  const its = [window.location, row].find((one) => one?.pathname === pathname);
  return its && new URL(its.href);
}

/** The same page, opened anew or by somebody else, shows the same span. */
function keepInAddress(picture, ends) {
  const here = addressOf(picture);
  if (!here) return;
  for (const end of ENDS) if (ends[end]) here.searchParams.set(end, ends[end]);
  else here.searchParams.delete(end);
  window.history.replaceState(window.history.state, "", here);
}

/** @param ends two instants; none for what it shows by itself */
function toEnds(picture, ends) {
  const address = new URL(picture.dataset.time, window.location.href);
  for (const end of ENDS) if (ends[end]) address.searchParams.set(end, ends[end]);
  keepInAddress(picture, ends);
  go(picture, address.href);
}

function toSpan(picture, from, to) {
  const iso = (at) => new Date(Math.round(at)).toISOString();
  toEnds(picture, { from: iso(from), to: iso(to) });
}

/** A link leads to the whole page with other ends; here the picture alone is fetched. */
function follow(picture, link) {
  toEnds(picture, Object.fromEntries(new URL(link.href).searchParams));
}

/** A span of some length up to now, however long the page has been open. */
function last(picture, link) {
  const asked = new URL(link.href).searchParams;
  const to = serverNow();
  toSpan(picture, to - (Date.parse(asked.get("to")) - Date.parse(asked.get("from"))), to);
}

function press(picture, move) {
  const link = picture.querySelector(`[data-time-move="${move}"]`);
  if (link) follow(picture, link);
}

/** The picture that a link moves, if it is one. */
function movedBy(link) {
  return link?.closest(".time") ?? link?.closest(".measured")?.querySelector(".time");
}

const KEYS = { ArrowLeft: "earlier", ArrowRight: "later", "+": "closer", "=": "closer", "-": "wider", 0: "whole" };

const JUST = 300;

let drag = null;
let dragged = 0;

function watchPointer() {
  document.addEventListener("pointermove", (event) => {
    const picture = event.target.closest?.(".time");
    if (!picture || !event.target.closest(".time-lanes")) return;
    const at = instantAt(picture, event.clientX);
    show(picture, at);
    document.dispatchEvent(new CustomEvent("read-at", { detail: { at: at / 1000, from: picture } }));
    if (drag?.picture === picture) picture.classList.toggle("dragging", Math.abs(event.clientX - drag.x) > NEAR);
  });
  document.addEventListener("pointerdown", (event) => {
    const picture = event.target.closest?.(".time");
    if (picture && event.button === 0 && event.target.closest(".time-lanes svg")) drag = { picture, x: event.clientX };
  });
  document.addEventListener("pointerup", (event) => {
    const begun = drag;
    drag = null;
    if (!begun?.picture.isConnected) return;
    begun.picture.classList.remove("dragging");
    if (Math.abs(event.clientX - begun.x) <= NEAR) return;
    const ends = [instantAt(begun.picture, begun.x), instantAt(begun.picture, event.clientX)].sort((one, other) => one - other);
    dragged = Date.now();
    act(begun.picture, (picture) => toSpan(picture, ...ends));
  });
  document.addEventListener("click", (event) => {
    const link = event.target.closest?.("[data-time-move], [data-time-length]");
    const moved = event.ctrlKey || event.metaKey || event.shiftKey || event.altKey ? null : movedBy(link);
    if (!moved) return;
    event.preventDefault();
    const { timeMove } = link.dataset;
    act(moved, (picture) => (timeMove ? press(picture, timeMove) : last(picture, link)));
  });
  // What was dragged over is not followed; the table has the same as links.
  document.addEventListener("click", (event) => {
    const link = event.target.closest?.(".time-track [data-link]")?.dataset.link;
    if (link && Date.now() - dragged > JUST) window.location.assign(link);
  });
  document.addEventListener("wheel", (event) => {
    const picture = event.ctrlKey ? event.target.closest?.(".time") : null;
    if (!picture || !event.target.closest(".time-lanes")) return;
    event.preventDefault();
    const at = instantAt(picture, event.clientX);
    const times = event.deltaY > 0 ? 1.5 : 1 / 1.5;
    act(picture, (now) => toSpan(now, at - (at - parts(now).from) * times, at + (parts(now).to - at) * times));
  }, { passive: false });
}

export function startTime() {
  watchPointer();
  document.addEventListener("span-chosen", ({ detail }) => act(detail.picture, (picture) => toSpan(picture, detail.from, detail.to)));
  document.addEventListener("read-at", (event) => {
    for (const picture of document.querySelectorAll(".time")) if (picture !== event.detail.from) show(picture, event.detail.at * 1000);
  });
  document.addEventListener("keydown", (event) => {
    const move = event.target.matches?.(".time-lanes") && !event.ctrlKey && !event.metaKey && !event.altKey ? KEYS[event.key] : null;
    if (!move) return;
    event.preventDefault();
    event.stopPropagation();
    act(event.target.closest(".time"), (picture) => press(picture, move));
  }, true);
}
