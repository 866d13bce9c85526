// What opens without a link: the boat, the set-out card and the last call sheet, as they were last seen, and all that pages are made of.
"use strict";
const KEPT = "motilis-kept-1";
const PAGES = [/^\/boat$/, /^\/boat\/set-out$/, /^\/spread\/\d+\/card$/, /^\/today(\/card)?$/];
const HOURS = 48;

self.addEventListener("install", (event) => {
  event.waitUntil(caches.open(KEPT).then((kept) => kept.addAll(["/boat", "/today"]).catch(() => {})).then(() => self.skipWaiting()));
});
self.addEventListener("activate", (event) => {
  const old = caches.keys().then((names) => Promise.all(names.filter((name) => name !== KEPT).map((name) => caches.delete(name))));
  event.waitUntil(old.then(() => self.clients.claim()));
});

const keep = async (request, answer) => {
  if (answer.ok && answer.type === "basic" && !answer.redirected) await (await caches.open(KEPT)).put(request, answer.clone());
  return answer;
};
// A page that was kept says so: its own script tells since when there is no link, and what is tapped on it waits.
const page = async (request) => {
  const { pathname: path, search } = new URL(request.url);
  try {
    // What was just done stands on the page once: it is not kept.
    const answer = await fetch(request);
    return search ? answer : await keep(path, answer);
  } catch (lost) {
    const kept = await caches.match(path);
    const since = kept && Date.parse(kept.headers.get("date") || "");
    if (kept && !(Date.now() - since > HOURS * 3_600_000)) return kept;
    throw lost;
  }
};
const file = async (request) => (await caches.match(request)) || keep(request, await fetch(request));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (url.pathname.startsWith("/static/") || url.pathname === "/manifest.webmanifest") event.respondWith(file(request));
  else if (request.mode === "navigate" && PAGES.some((one) => one.test(url.pathname))) event.respondWith(page(request));
});
