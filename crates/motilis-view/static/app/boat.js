// The boat under way: figures as they come, what to do when they do not, and a screen that stays awake.
(() => {
  "use strict";
  const at = (id) => document.getElementById(id);
  // No contact for so long is said at once; a stream that fails is asked for instead, ms.
  const SILENT = 3000, ASKS = 2000, FADES = 10000;
  let source = null, heard = 0, failed = 0, asked = 0;
  const here = () => at("boat");

  const put = (place, value) => {
    if (place && place.textContent !== value) place.textContent = value;
  };
  const part = (of, name) => of?.querySelector(`[data-part=${name}]`);
  const figure = (id, now) => {
    const place = at(`live-${id}`);
    if (!place) return;
    put(part(place, "value"), now.value);
    put(part(place, "unit"), now.unit);
    put(part(place, "of"), now.of);
    place.className = place.className.replace(/age-\w+/, `age-${now.state}`);
    if (id === "speed") place.classList.toggle("is-long", now.value.length > 3);
  };
  const SIGNS = { rolling: "#g-rolling_over", stalled: "#g-stalled" };

  const row = (now, second) => {
    const place = at(`rod-${now.number}`);
    if (!place || place.classList.contains("is-aboard")) return;
    place.className = place.className.replace(/is-(ok|watch|no)/, `is-${now.grade}`);
    put(part(place, "word"), now.word);
    const hours = part(place, "hours");
    if (hours) {
      const minutes = Math.max(0, Math.floor((second - Number(hours.dataset.since)) / 60));
      put(hours, `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`);
    }
    put(part(place, "depth"), now.depth);
    put(part(place, "half"), now.half);
    part(place, "bottom")?.setAttribute("d", now.bottom);
    part(place, "line")?.setAttribute("d", `M0 1 L${now.rig[0]} ${now.rig[1]}`);
    for (const [name, value] of [["cx", now.rig[0]], ["cy", now.rig[1]]]) part(place, "rig")?.setAttribute(name, value);
    const sign = place.querySelector(".boat-sign use");
    const kind = SIGNS[now.state] || "#g-turning";
    if (sign && sign.getAttribute("href") !== kind) sign.setAttribute("href", kind);
  };

  // The one line's button never becomes another under a thumb on its way down: it goes for a moment first. Another speed for the
  // same throttle is the same button.
  const CALM = 700, HELM = "/boat/helm ";
  let went = -CALM, later = 0;
  const stands = (form) => form.hidden ? "" : `${form.getAttribute("action")} ${JSON.stringify([...at("line-fields").children].map((field) => [field.name, field.value]))}`;
  const line = (now) => {
    const place = at("boat-line");
    if (!place) return;
    put(at("line-text"), now.text);
    place.dataset.mark = now.mark;
    place.querySelector("svg use").setAttribute("href", `#m-${now.mark || "works"}`);
    const form = at("line-form"), dismiss = at("line-dismiss"), act = now.act;
    const wanted = act ? `${act.address} ${JSON.stringify(act.fields)}` : "", there = stands(form);
    clearTimeout(later);
    if (there === wanted) return;
    if (there && !(there.startsWith(HELM) && wanted.startsWith(HELM))) {
      form.hidden = true;
      if (dismiss) dismiss.hidden = true;
      went = performance.now();
    }
    if (!act) return;
    if (performance.now() - went < CALM) {
      later = setTimeout(() => line(now), CALM);
      return;
    }
    form.hidden = false;
    if (dismiss) dismiss.hidden = act.address !== "/log/switch";
    form.action = act.address;
    put(at("line-act"), act.label);
    at("line-fields").replaceChildren(...act.fields.map(([name, value]) => {
      const field = document.createElement("input");
      field.type = "hidden";
      field.name = name;
      field.value = value;
      return field;
    }));
  };

  const show = (now) => {
    const boat = here();
    if (!boat) return;
    for (const id of ["speed", "ground", "depth", "temperature"]) figure(id, now[id]);
    put(at("live-clock"), now.clock);
    put(at("live-dark"), now.dark);
    const link = at("boat-link");
    link.hidden = !now.link;
    put(link, now.link);
    const rule = boat.querySelector(".boat-rule"), rider = at("rider");
    rider.classList.toggle("is-hidden", now.at === null);
    if (now.at !== null) {
      const x = Number(rule.dataset.nought) + now.at * Number(rule.dataset.slope);
      rider.setAttribute("transform", `translate(${Math.max(0, Math.min(390, x)).toFixed(1)} 0)`);
    }
    // What was told before the page was made knows less than it does.
    if (now.version >= Number(boat.dataset.version)) line(now.line);
    for (const rod of now.rods) row(rod, now.second);
    // Another device did something: the page is looked at anew, unless a hand is at it.
    if (now.version > Number(boat.dataset.version)) document.dispatchEvent(new CustomEvent("motilis:refresh", { detail: now.version }));
  };

  const take = (text) => {
    heard = performance.now();
    here()?.classList.remove("is-silent");
    try {
      show(JSON.parse(text));
    } catch {
      // Half a message: the next one is whole.
    }
  };

  const ask = async () => {
    if (performance.now() - asked < ASKS) return;
    asked = performance.now();
    try {
      const answer = await fetch("/boat/now.json");
      if (answer.ok) take(await answer.text());
    } catch {
      // No link: said below.
    }
  };

  const listen = () => {
    if (!here() || source || !window.EventSource) return;
    source = new EventSource("/boat/live");
    source.onmessage = (event) => {
      failed = 0;
      take(event.data);
    };
    source.onerror = () => {
      failed += 1;
      if (source.readyState === EventSource.CLOSED) {
        source = null;
        setTimeout(listen, Math.min(8000, 500 * failed));
      }
    };
  };

  const watch = () => {
    const boat = here();
    if (!boat) {
      source?.close();
      source = null;
      heard = 0;
      return;
    }
    if (!source) listen();
    if (!heard) heard = performance.now();
    const silent = performance.now() - heard;
    if (failed > 2 || !window.EventSource || silent > SILENT) ask();
    if (silent < SILENT) return;
    boat.classList.add("is-silent");
    const link = at("boat-link");
    link.hidden = false;
    put(link, `No contact with the boat’s program for ${Math.round(silent / 1000)} s: the figures are as they were then.`);
  };
  setInterval(watch, 1000);

  // A dialog by its button, as long as its page stands.
  document.addEventListener("click", (event) => {
    const opener = event.target.closest?.("[data-dialog]");
    if (!opener) return;
    const dialog = at(opener.dataset.dialog);
    if (dialog?.open) dialog.close();
    dialog?.showModal();
  });

  // What was tapped in it is done, or kept: it closes, also without a link.
  document.addEventListener("submit", (event) => {
    const dialog = event.target.closest?.("dialog.boat-acts");
    if (dialog) setTimeout(() => dialog.close());
  });

  // The whole page darker, by hand only.
  const DIMS = ["", "dim-75", "dim-55"];
  const dim = () => {
    const now = localStorage.getItem("motilis-dim") || "";
    here()?.classList.remove("dim-75", "dim-55");
    if (now && here()) here().classList.add(now);
    at("boat-dim")?.setAttribute("aria-pressed", String(Boolean(now)));
  };
  document.addEventListener("click", (event) => {
    if (!event.target.closest?.("#boat-dim")) return;
    const now = localStorage.getItem("motilis-dim") || "";
    localStorage.setItem("motilis-dim", DIMS[(DIMS.indexOf(now) + 1) % DIMS.length]);
    dim();
  });

  // The screen stays awake on this page, where the browser lets it.
  let lock = null;
  const wake = async () => {
    if (!here() || lock || document.visibilityState !== "visible" || !navigator.wakeLock) return;
    try {
      lock = await navigator.wakeLock.request("screen");
      lock.addEventListener("release", () => { lock = null; });
    } catch {
      lock = null;
    }
  };
  document.addEventListener("visibilitychange", wake);

  const begin = () => {
    dim();
    listen();
    wake();
    const notice = document.querySelector(".boat-notice[data-fades]");
    if (notice) setTimeout(() => { notice.hidden = true; }, FADES);
    const can = at("phone-can");
    if (can) {
      const lacks = [];
      if (!("serviceWorker" in navigator)) lacks.push("opening without a link");
      if (!navigator.wakeLock) lacks.push("keeping the screen awake");
      can.textContent = lacks.length ? `This browser, at this address, does not offer: ${lacks.join(", ")}.` : "This browser offers all of it at this address.";
    }
  };
  document.addEventListener("DOMContentLoaded", begin);
  document.addEventListener("motilis:page", begin);
  if ("serviceWorker" in navigator) window.addEventListener("load", () => navigator.serviceWorker.register("/worker.js").catch(() => {}));
})();
