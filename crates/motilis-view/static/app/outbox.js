// Acts that wait in this browser until the boat's program has answered them, and the strip that says so.
(() => {
  "use strict";
  const BOX = "motilis-outbox";
  // How long an answer may take, how long until the next try, and how long until a waiting act is shown, ms.
  const PATIENCE = 5000, AGAIN = 3000, QUIET = 150;
  // Two taps on one button so near each other are one hand's bounce, ms.
  const BOUNCE = 180;
  const at = (id) => document.getElementById(id);
  const clock = (time) => new Date(time).toTimeString().slice(0, 5);

  // What waits, the oldest first; every change is read and written anew, for another tab may have sent some. A browser that
  // stores nothing keeps it as long as the page stands.
  let unstored = null;
  const waiting = () => {
    if (unstored) return unstored;
    try {
      return JSON.parse(localStorage.getItem(BOX)) || [];
    } catch {
      return [];
    }
  };
  const change = (how) => {
    const next = how(waiting());
    try {
      localStorage.setItem(BOX, JSON.stringify(next));
      unstored = null;
    } catch {
      unstored = next;
    }
    strip();
  };
  const without = (id) => change((all) => all.filter((act) => act.id !== id));

  // Since when there is no link, and for which speed the figures on the page were computed.
  let lost = 0, figures = "", keptAt = 0;
  // The page that was asked for without a link: said until there is one.
  let unopened = "";
  // What has to be done before it is taken: by what the program answered.
  const BARS = { 401: " Sign in on this device first: open any page.", 507: " The disk of the data file is full: make room there." };
  let barred = "";
  // The page whose words stand here: its path, and a mark of its own.
  let here = location.pathname + location.search, page = "";

  const said = () => {
    const field = at("speed");
    const unit = document.querySelector("label[for=speed] .dim2")?.textContent ?? document.querySelector(".live-speed span")?.textContent;
    return field?.value ? `${field.value} ${unit ?? ""}`.trim() : "";
  };

  const strip = () => {
    const place = at("link");
    if (!place) return;
    const all = waiting();
    const open = all.filter((act) => !act.refused);
    const stale = Boolean(document.querySelector(".is-stale"));
    const late = open.length > 0 && (performance.now() - keptAt > QUIET || open[0].tapped < Date.now() - QUIET);
    place.hidden = !(lost || late || all.length > open.length || stale);
    const kept = open.length ? ` ${open.length} kept here; sent when it is back.` : "";
    const of = stale && figures ? ` Figures are for ${figures}.` : "";
    const words = lost
      ? `${barred ? "Not taken yet." : `No link since ${clock(lost)}.`}${of}${kept}${barred || unopened}`
      : open.length ? `Kept here, ${open.length} waiting.` : all.length ? "Not taken:" : stale ? `Being computed anew.${of}` : "";
    if (at("link-says").textContent !== words) at("link-says").textContent = words;
    const rows = all.map((act) => {
      const row = document.createElement("li");
      const what = document.createElement("span");
      what.textContent = `${act.says}, ${clock(act.tapped)}${act.refused ? `: ${act.refused}` : ""}`;
      row.append(what);
      if (act.refused) {
        const button = document.createElement("button");
        button.type = "button";
        button.className = "b";
        button.dataset.drop = act.id;
        button.textContent = "Throw away";
        button.setAttribute("aria-label", `Throw away ${act.says}, ${clock(act.tapped)}`);
        row.append(button);
      }
      return row;
    });
    at("link-acts").replaceChildren(...rows);
  };

  const isLost = () => {
    if (!lost) lost = Date.now();
    strip();
  };
  const isBack = () => {
    lost = 0;
    unopened = barred = "";
    for (const form of document.querySelectorAll("form[data-asked]")) {
      form.removeAttribute("data-asked");
      for (const kind of ["change", "input"]) window.htmx.trigger(form, kind);
    }
    strip();
  };

  // What a page says without being looked at: its call, its depth, its state.
  const told = () => [...document.querySelectorAll("[data-say]")].map((one) => one.textContent.replace(/\s+/g, " ").trim());
  let heard = [];
  const say = () => {
    const now = told();
    const notice = document.querySelector("main .notice[role=status] p")?.textContent;
    const fresh = now.filter((words) => words && !heard.includes(words));
    heard = now;
    const words = [notice, ...fresh].filter(Boolean).join(". ");
    if (words && at("say")) at("say").textContent = words;
  };

  // What stands half typed in other forms than the one that was sent.
  const halfTyped = (sent) =>
    [...document.querySelectorAll("main input[id], main textarea[id]")]
      .filter((field) => !/^(hidden|range|checkbox|radio|file)$/.test(field.type))
      .filter((field) => field.value !== field.defaultValue && !sent?.fields?.includes(field.id))
      .map((field) => [field.id, field.value]);

  // The answer's page in this one's place, as if the browser had gone there; what is said to ears stays.
  const show = (html, address, sent) => {
    const typed = halfTyped(sent);
    const next = new DOMParser().parseFromString(html, "text/html");
    const to = new URL(address, location.href);
    const same = to.pathname === location.pathname;
    const scrolled = window.scrollY, focus = document.activeElement?.id;
    document.title = next.title;
    for (const { name, value } of next.documentElement.attributes)
      // A device that chose neither day nor night keeps what it is set to.
      if (value !== "device") document.documentElement.setAttribute(name, value);
    for (const dialog of document.querySelectorAll("dialog[open]")) dialog.close();
    for (const part of ["header.nav-rule", "main", "nav.doors-phone"]) {
      const [old, fresh] = [document.querySelector(part), next.querySelector(part)];
      if (old && fresh) old.replaceWith(document.adoptNode(fresh));
    }
    if (same) for (const [id, value] of typed) if (at(id) && at(id).value === at(id).defaultValue) at(id).value = value;
    if (to.href !== location.href) history.pushState(null, "", to);
    begin();
    window.htmx.process(document.querySelector("main"));
    document.dispatchEvent(new Event("motilis:page"));
    const goal = to.hash && at(to.hash.slice(1));
    if (goal) goal.scrollIntoView();
    else window.scrollTo(0, same ? scrolled : 0);
    const wrong = document.querySelector("main [aria-invalid=true]");
    (wrong || (focus && at(focus)) || goal || at("main"))?.focus?.({ preventScroll: true });
    if (wrong) wrong.scrollIntoView({ block: "center" });
    say();
  };

  const ask = async (address, how = {}, patience = PATIENCE) => {
    const stop = new AbortController();
    const timer = setTimeout(() => stop.abort(), patience);
    try {
      const answer = await fetch(address, { ...how, signal: stop.signal });
      if ([401, 408, 502, 503, 504, 507].includes(answer.status)) throw new Error(String(answer.status));
      const to = answer.redirected ? answer.url : location.href;
      return { ok: answer.ok, to, text: await answer.text() };
    } finally {
      clearTimeout(timer);
    }
  };

  // Why an act was not done, in the words of the page that answered it.
  const refusal = (html) => {
    const page = new DOMParser().parseFromString(html, "text/html");
    const said = page.querySelector("main .problem:not(:empty), main .message p");
    return said?.textContent.trim() || "It was not taken.";
  };

  // Whether something is typed in that nobody has sent.
  const isTyping = () =>
    [...document.querySelectorAll("main input:not([type=hidden]):not([type=range]):not([type=checkbox]), main textarea")]
      .some((field) => field.value !== field.defaultValue);

  // Sends what waits, one after the other; a try that finds no link leaves everything where it is.
  let sending = false;
  const send = async () => {
    if (sending) return;
    sending = true;
    try {
      for (;;) {
        const act = waiting().find((one) => !one.refused);
        if (!act) break;
        const body = new URLSearchParams(act.body);
        body.set("_act", act.id);
        body.set("_age", String(Math.max(0, Math.round(Date.now() - act.tapped))));
        let answer;
        try {
          answer = await ask(act.address, { method: "POST", body });
        } catch (why) {
          barred = BARS[why.message] || "";
          isLost();
          return;
        }
        if (lost) isBack();
        const left = waiting().filter((one) => one.id !== act.id && !one.refused).length;
        const asker = act.page === page || (act.from === here && !isTyping());
        const fresh = asker && !left && Date.now() - act.tapped < 2 * PATIENCE;
        if (answer.ok || fresh) without(act.id);
        else change((all) => all.map((one) => (one.id === act.id ? { ...one, refused: refusal(answer.text) } : one)));
        if (asker && !left && (answer.ok || fresh)) show(answer.text, answer.to, act);
      }
    } finally {
      sending = false;
      strip();
    }
  };

  const look = async () => {
    if (waiting().some((act) => !act.refused)) {
      await send();
    } else if (lost) {
      try {
        await ask("/link");
        isBack();
      } catch {
        strip();
      }
    }
  };
  setInterval(look, AGAIN);
  window.addEventListener("online", look);
  window.addEventListener("offline", isLost);

  const number = () => [...crypto.getRandomValues(new Uint32Array(4))].map((part) => part.toString(16)).join("-");
  const says = (form, button) =>
    form.dataset.says || button?.getAttribute("aria-label") || button?.textContent.trim() || "A change";

  const keep = (act) => {
    change((all) => [
      // A form that tells all of itself replaces what it told before and nobody has answered.
      ...all.filter((one) => one.refused || !act.whole || one.whole !== act.whole),
      act,
    ]);
    keptAt = performance.now();
    setTimeout(strip, QUIET + 10);
  };

  // Two taps are told apart by the finger's own time: a page that was busy hands them on at once.
  let clicked = 0;
  document.addEventListener("click", (event) => { clicked = event.timeStamp; }, true);

  let last = { asked: "", time: 0 };
  document.addEventListener("submit", (event) => {
    const form = event.target, button = event.submitter;
    const method = button?.getAttribute("formmethod") || form.getAttribute("method") || "get";
    // A pass phrase is not kept, and what is done to the data file is done by a link or not at all.
    if (event.defaultPrevented || method.toLowerCase() !== "post" || form.hasAttribute("data-at-once")) return;
    event.preventDefault();
    const data = new FormData(form, button);
    const address = new URL(button?.getAttribute("formaction") || form.getAttribute("action") || location.href, location.href);
    const asked = `${address} ${button?.name}=${button?.value}`;
    const time = button ? clicked : event.timeStamp;
    const bounced = last.asked === asked && time - last.time < BOUNCE;
    last = { asked, time };
    // A fish is a fish each time; whatever else waits is not asked for twice.
    const again = !form.hasAttribute("data-each") && waiting().some((act) => !act.refused && act.page === page && act.asked === asked);
    if (bounced || again) return;
    if (form.enctype === "multipart/form-data") return void upload(form, data, address);
    keep({
      id: number(),
      address: address.pathname + address.search,
      asked,
      body: [...data.entries()].filter(([name]) => name !== "_act" && name !== "_age"),
      says: says(form, button),
      tapped: Date.now(),
      from: here,
      page,
      fields: [...form.elements].map((field) => field.id).filter(Boolean),
    });
    send();
  });

  // A file is too large to keep: it is sent at once or stays chosen.
  const upload = async (form, data, address) => {
    form.setAttribute("aria-busy", "true");
    try {
      const answer = await ask(address, { method: "POST", body: data }, 60_000);
      show(answer.text, answer.to);
    } catch {
      isLost();
      at("link-says").textContent += " The file was not sent; it is still chosen.";
    } finally {
      form.removeAttribute("aria-busy");
    }
  };

  document.addEventListener("click", async (event) => {
    const drop = event.target.closest?.("[data-drop]");
    if (drop) return without(drop.dataset.drop);
    const link = event.target.closest?.("a[href]");
    if (!lost || !link || event.defaultPrevented || event.button || event.ctrlKey || event.metaKey || event.shiftKey) return;
    const to = new URL(link.href);
    if (to.origin !== location.origin || link.target || link.hasAttribute("download")) return;
    if (to.pathname === location.pathname && to.search === location.search && to.hash) return;
    event.preventDefault();
    try {
      const answer = await ask(to);
      isBack();
      show(answer.text, to);
    } catch {
      unopened = ` ${link.textContent.trim()} cannot be opened without it.`;
      strip();
    }
  });

  // Another device did something: this page is looked at anew, unless a hand is at it.
  let refreshing = false;
  document.addEventListener("motilis:refresh", async () => {
    const busy = refreshing || waiting().some((act) => !act.refused) || document.querySelector("dialog[open]") || isTyping();
    if (busy) return;
    refreshing = true;
    const asker = page;
    try {
      const address = location.pathname + location.search;
      const answer = await ask(address);
      if (answer.ok && asker === page && !document.querySelector("dialog[open]")) show(answer.text, address);
    } catch {
      // No link: the strip says so.
    } finally {
      refreshing = false;
    }
  });

  // What htmx asks: while its answer is out, a tap asks for the same act; results that are not of what stands in the fields are stale.
  const isPost = (event) => event.detail.requestConfig?.verb === "post";
  const formOf = (event) => event.detail.elt.closest?.("form");
  const acts = new WeakMap();
  document.addEventListener("htmx:configRequest", (event) => {
    const form = formOf(event);
    if (!form || event.detail.verb !== "post") return;
    if (!acts.has(form)) acts.set(form, number());
    event.detail.parameters._act = acts.get(form);
  });
  const slow = new WeakMap();
  document.addEventListener("htmx:beforeRequest", (event) => {
    const place = event.detail.target;
    clearTimeout(slow.get(place));
    slow.set(place, setTimeout(() => { place.classList.add("is-stale"); strip(); }, 400));
  });
  const failed = (event) => {
    const place = event.detail.target;
    clearTimeout(slow.get(place));
    place.classList.add("is-stale");
    const form = formOf(event);
    if (isPost(event) && form) {
      const { path, parameters } = event.detail.requestConfig;
      const pairs = parameters instanceof FormData ? [...parameters.entries()] : Object.entries(parameters);
      keep({
        id: acts.get(form) || number(),
        address: path,
        body: pairs.filter(([name]) => name !== "_act" && name !== "_age").map(([name, value]) => [name, String(value)]),
        says: says(form, null) === "A change" ? `${document.title.split(/ · |, /)[0]}, a change` : says(form, null),
        tapped: Date.now(),
        from: here,
        page,
        whole: form.elements._base ? `${path} ${form.elements._base.value}` : "",
      });
      acts.delete(form);
    } else if (form) form.dataset.asked = "yes";
    isLost();
  };
  for (const kind of ["htmx:sendError", "htmx:timeout"]) document.addEventListener(kind, failed);
  document.addEventListener("htmx:responseError", (event) => {
    // A run that ended with the program: the page that says so.
    if (event.detail.elt.id === "motion-run") return location.reload();
    if (event.detail.xhr.status === 401) return location.reload();
    if ([502, 503, 504].includes(event.detail.xhr.status)) failed(event);
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    const place = event.detail.target;
    clearTimeout(slow.get(place));
    if (!event.detail.xhr?.status) return;
    if (formOf(event)) acts.delete(formOf(event));
    place.classList.remove("is-stale");
    if (lost) isBack();
  });
  document.addEventListener("htmx:afterSettle", () => {
    figures = said();
    strip();
    say();
  });

  // Back and forward: what stands here is another page's.
  window.addEventListener("popstate", () => {
    if (here !== location.pathname + location.search) location.reload();
  });
  // A page that is come back to is a new page: what is tapped there is meant anew.
  window.addEventListener("pageshow", (event) => {
    if (event.persisted) window.location.reload();
  });
  const begin = () => {
    here = location.pathname + location.search;
    page = number();
    figures = said();
    strip();
  };
  document.addEventListener("DOMContentLoaded", () => {
    begin();
    heard = told();
    send();
  });
})();
