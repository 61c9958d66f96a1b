// One stream names what has changed; each part of the page that cares fetches itself again and is changed in place.
// A part says what it cares for with data-live="topic topic" and where it comes from with data-live-src.
import { Idiomorph } from "../vendor/idiomorph/idiomorph.esm.js";
import { notice } from "./frame.js";

const WORKING_FOR = 8000;
/** In the place of a topic: anything may have changed. */
const ALL = "*";
let lastTouch = 0;

/** The reader points at, or goes through, the list: rows must not move under them. */
function working(part) {
  if (part.querySelector(".pick:checked")) return true;
  const recent = Date.now() - lastTouch < WORKING_FOR;
  return recent && (part.matches(":hover") || part.contains(document.activeElement));
}

const keep = {
  // What the reader has opened, typed or is looking at stays; the server does not know of it.
  beforeNodeMorphed: (old, fresh) => {
    // What is chosen stays chosen, as it is now.
    if (old instanceof Element && old.matches(".pick")) {
      old.value = fresh.value;
      return false;
    }
    return !(old instanceof Element && (old.matches("[data-keep]") || (old === document.activeElement && old.matches("input, textarea, select"))));
  },
  beforeAttributeUpdated: (name, node) => !(name === "open" && node.matches("details")),
};

function morph(part, fresh) {
  Idiomorph.morph(part, fresh, { morphStyle: "outerHTML", callbacks: keep });
  const now = document.getElementById(part.id);
  if (!now) return;
  window.htmx.process(now);
  markCurrent();
  if (now.dataset.version) seen(now.dataset.version);
  // What was fetched when it was opened may have more to tell by now.
  for (const opened of now.querySelectorAll("details[open][data-anew]")) window.htmx.trigger(opened, "opened");
  document.dispatchEvent(new CustomEvent("fresh", { detail: now }));
}

/**
 * What is shown is what the reader acts on. A form that is open was begun on what was shown then, and keeps that. The parts of a dossier are
 * fetched each by itself: one that comes late tells of an older version, which is not gone back to.
 */
function seen(version) {
  for (const field of document.querySelectorAll("#dossier input[name=version]")) {
    if (!field.closest(".panel:not([hidden])") && Number(version) > Number(field.value)) field.value = version;
  }
}

function morphHeld(part, fresh) {
  const rows = new Map([...fresh.querySelectorAll("li[id]")].map((row) => [row.id, row]));
  for (const row of part.querySelectorAll("li[id]")) {
    const next = rows.get(row.id);
    row.classList.toggle("row-gone", !next);
    if (next) Idiomorph.morph(row, next, { morphStyle: "outerHTML", callbacks: keep });
    rows.delete(row.id);
  }
  part.querySelector(".newcomers")?.remove();
  if (rows.size > 0) {
    const button = document.createElement("button");
    button.className = "newcomers";
    button.type = "button";
    button.textContent = `${rows.size} new`;
    button.addEventListener("click", () => refresh(part, true));
    part.prepend(button);
  }
  window.htmx.process(part);
  markCurrent();
}

/** While a form is on its way to its answer nothing else changes the page, and what was fetched before is old by then. */
const sending = new Set();
let answered = 0;
let waiting = [];

function settled() {
  return sending.size === 0 ? Promise.resolve() : new Promise((go) => waiting.push(go));
}

/** From the choice of another row on, nothing is done to what was shown before it. */
function watchRows() {
  document.addEventListener("htmx:beforeSend", (event) => {
    if (event.detail.elt?.matches?.(".row-link")) document.getElementById("dossier")?.setAttribute("inert", "");
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (event.detail.failed) document.getElementById("dossier")?.removeAttribute("inert");
  });
}

function watchForms() {
  document.addEventListener("htmx:beforeSend", (event) => {
    const form = event.detail.elt;
    if (!form?.matches?.("form") || event.detail.requestConfig.verb === "get") return;
    sending.add(event.detail.requestConfig);
    // Keys that come now are for the page, and not for a field that is about to go.
    if (form.contains(document.activeElement)) document.activeElement.blur();
  });
  // The form itself may be gone by now, so its request is known by what was asked.
  document.addEventListener("htmx:afterRequest", (event) => {
    if (!sending.delete(event.detail.requestConfig)) return;
    answered += 1;
    if (sending.size > 0) return;
    const ready = waiting;
    waiting = [];
    ready.forEach((go) => go());
  });
}

async function refresh(part, atOnce) {
  await settled();
  const before = answered;
  const answer = await fetch(part.dataset.liveSrc, { headers: { "HX-Request": "true", "HX-Target": part.id } }).catch(() => null);
  if (answer?.status === 401) return notice("logged-out");
  if (!answer?.ok) return;
  const fresh = new DOMParser().parseFromString(await answer.text(), "text/html").getElementById(part.id);
  await settled();
  const still = document.getElementById(part.id);
  if (before !== answered) return still ? refresh(still, atOnce) : undefined;
  if (!fresh || !still || still.dataset.liveSrc !== part.dataset.liveSrc) return;
  if (!atOnce && part.hasAttribute("data-live-hold") && working(part)) morphHeld(still, fresh);
  else morph(still, fresh);
}

/** Many changes in a moment are one refresh, and one that is under way is followed by one more at the most. */
const wanted = new Map();
function soon(part) {
  const id = part.id;
  if (wanted.has(id)) return wanted.set(id, true);
  wanted.set(id, false);
  refresh(part, false).finally(() => {
    setTimeout(() => {
      const again = wanted.get(id);
      wanted.delete(id);
      const now = document.getElementById(id);
      if (again && now) soon(now);
    }, 400);
  });
}

export function markCurrent() {
  // A list may open with its first row chosen; then the address is that of the list.
  const shown = document.getElementById("dossier")?.dataset.path ?? location.pathname;
  for (const link of document.querySelectorAll(".row-link")) {
    if (new URL(link.href).pathname === shown && !link.dataset.plain) link.setAttribute("aria-current", "true");
    else if (!link.dataset.plain) link.removeAttribute("aria-current");
  }
}

export function startLive() {
  watchForms();
  watchRows();
  if (!document.querySelector("[data-live]")) return;
  for (const touch of ["pointermove", "keydown"]) document.addEventListener(touch, () => (lastTouch = Date.now()), { passive: true });
  document.addEventListener("htmx:pushedIntoHistory", markCurrent);
  document.addEventListener("htmx:afterSwap", markCurrent);
  document.addEventListener("handed-off", () => {
    // Only the form that was sent goes: the log may have told of it already, and another form may be open by now.
    document.getElementById("handoff-panel")?.replaceChildren();
    document.querySelectorAll("#dossier [data-live], #case-rows").forEach(soon);
  });
  listen();
}

/**
 * Browsers allow a handful of connections to one host, so of many open tabs one holds the stream and passes on what it
 * hears; when it closes, another takes over. Where the browser has no locks (plain HTTP beyond this machine), each tab
 * has its own. Whatever a tab may not have heard before there was somebody to hear from, it asks for.
 */
function listen() {
  // A page that comes back as it was left listens to nothing any more.
  window.addEventListener("pageshow", (event) => event.persisted && location.reload());
  const tabs = new BroadcastChannel("morvet-live");
  tabs.addEventListener("message", (event) => hear(event.data));
  if (!navigator.locks) return open(hear);
  const tell = (news) => {
    hear(news);
    tabs.postMessage(news);
  };
  const hold = () => new Promise(() => open(tell));
  navigator.locks
    .request("morvet-live", { ifAvailable: true }, (free) => (free ? hold() : void askForMissed()))
    .then(() => navigator.locks.request("morvet-live", hold));
}

/** What has changed since this page was drawn. */
async function askForMissed() {
  const asked = "/live/missed?since=" + encodeURIComponent(document.documentElement.dataset.drawn);
  const answer = await fetch(asked, { headers: { "HX-Request": "true" } }).catch(() => null);
  if (answer?.ok) (await answer.json()).forEach(changed);
}

function changed(topic) {
  for (const part of document.querySelectorAll("[data-live]")) {
    if (topic === ALL || part.dataset.live.split(" ").includes(topic)) soon(part);
  }
  document.dispatchEvent(new CustomEvent("changed", { detail: topic }));
}

function hear(news) {
  const noAnswer = document.getElementById("no-answer");
  // Scripts of before would go on with pages of now.
  if (news.assets && news.assets !== document.documentElement.dataset.assets) notice("upgraded");
  if (news.topic) changed(news.topic);
  if (news.state === "listening") askForMissed();
  if (news.state === "back") {
    // Whatever was missed while the stream was away is fetched now.
    changed(ALL);
    noAnswer?.setAttribute("hidden", "");
  }
  if (news.state === "away") noAnswer?.removeAttribute("hidden");
  if (news.state === "logged-out") notice("logged-out");
}

function open(tell) {
  const stream = new EventSource("/live");
  let lost = false;
  stream.addEventListener("changed", (event) => tell({ topic: event.data }));
  stream.addEventListener("hello", (event) => {
    tell({ state: lost ? "back" : "listening", assets: event.data });
    lost = false;
  });
  stream.addEventListener("error", () => {
    if (stream.readyState === EventSource.CLOSED) return tell({ state: "logged-out" });
    lost = true;
    setTimeout(() => lost && tell({ state: "away" }), 5000);
  });
  window.addEventListener("pagehide", () => stream.close());
}
