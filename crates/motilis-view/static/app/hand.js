// What a hand on glass needs: sliders that a scroll does not move, folds that stay as they were left, fields that go together.
(() => {
  "use strict";

  // A slider moves by its thumb drawn sideways, or after a hold; a finger that scrolls over it leaves it as it is.
  const THUMB = 30, HOLD = 300, SIDEWAYS = 8;
  let held = null;
  const thumbAt = (slider) => {
    const box = slider.getBoundingClientRect();
    const share = (slider.value - slider.min) / (slider.max - slider.min || 1);
    return box.left + 7 + share * (box.width - 14);
  };
  document.addEventListener("pointerdown", (event) => {
    const slider = event.target.closest?.("input[type=range]");
    held = null;
    if (!slider || event.pointerType === "mouse") return;
    held = {
      slider, value: slider.value, x: event.clientX, y: event.clientY, since: event.timeStamp,
      onThumb: Math.abs(event.clientX - thumbAt(slider)) < THUMB, moves: false,
    };
  }, true);
  document.addEventListener("pointermove", (event) => {
    if (!held || held.moves) return;
    const [dx, dy] = [Math.abs(event.clientX - held.x), Math.abs(event.clientY - held.y)];
    const meant = held.onThumb || event.timeStamp - held.since > HOLD;
    held.moves = meant && dx > SIDEWAYS && dx > 2 * dy;
  }, true);
  const ended = (event) => {
    if (!held) return;
    const { slider, value, moves } = held;
    if (event.type === "pointercancel" || !moves) {
      slider.value = value;
      // What the browser still tells of this touch is not meant.
      setTimeout(() => {
        slider.value = value;
        held = null;
      }, 60);
      if (event.type === "pointercancel" && moves) {
        held = null;
        slider.dispatchEvent(new Event("input", { bubbles: true }));
      }
    } else held = null;
  };
  for (const kind of ["pointerup", "pointercancel"]) document.addEventListener(kind, ended, true);
  for (const kind of ["input", "change"])
    document.addEventListener(kind, (event) => {
      if (held?.slider === event.target && !held.moves) event.stopImmediatePropagation();
    }, true);

  // A fold stays as this device left it, through a swap and a reload.
  const FOLDS = "motilis-folds";
  const folds = () => {
    try {
      return JSON.parse(localStorage.getItem(FOLDS)) || {};
    } catch {
      return {};
    }
  };
  const unfold = () => {
    for (const fold of document.querySelectorAll("details[data-keep]"))
      if (folds()[`${location.pathname} ${fold.dataset.keep}`]) fold.open = true;
  };
  document.addEventListener("toggle", (event) => {
    const fold = event.target;
    if (!fold.matches?.("details[data-keep]")) return;
    const kept = folds();
    kept[`${location.pathname} ${fold.dataset.keep}`] = fold.open;
    localStorage.setItem(FOLDS, JSON.stringify(kept));
  }, true);
  // Choosing elsewhere, or Escape, closes what lies over the page.
  const closeDoors = (but) => {
    for (const doors of document.querySelectorAll(".more-doors[open]")) if (!doors.contains(but)) doors.open = false;
  };
  document.addEventListener("click", (event) => closeDoors(event.target));
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape") closeDoors(null);
  });

  // Fields that only make sense together are sent when the hand leaves all of them.
  document.addEventListener("change", (event) => {
    const group = event.target.closest?.("[data-together]");
    if (!group || group.dataset.sending) return;
    event.stopPropagation();
    event.stopImmediatePropagation();
    group.dataset.changed = "yes";
  }, true);
  document.addEventListener("focusout", (event) => {
    const group = event.target.closest?.("[data-together]");
    if (!group || group.contains(event.relatedTarget)) return;
    setTimeout(() => {
      if (!group.dataset.changed || group.contains(document.activeElement)) return;
      delete group.dataset.changed;
      group.dataset.sending = "yes";
      event.target.dispatchEvent(new Event("change", { bubbles: true }));
      delete group.dataset.sending;
    }, 0);
  });
  document.addEventListener("submit", (event) => {
    for (const group of event.target.querySelectorAll?.("[data-together][data-changed]") ?? []) delete group.dataset.changed;
  }, true);

  // A depth that is typed is taken by Enter and by leaving its field, as by its button.
  const take = (field) => {
    if (field.value !== field.defaultValue) document.getElementById(field.dataset.enter)?.click();
  };
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || !event.target.dataset?.enter) return;
    event.preventDefault();
    take(event.target);
  });
  document.addEventListener("change", (event) => {
    if (event.target.dataset?.enter) take(event.target);
  });

  // Large steps of a figure: from what stands there, or from where such figures usually are.
  document.addEventListener("click", (event) => {
    const step = event.target.closest?.("[data-step-for]");
    if (!step) return;
    const field = document.getElementById(step.dataset.stepFor);
    const now = Number.parseFloat(field.value.replace(",", "."));
    field.value = Number.isFinite(now) ? Math.max(0, now + Number(step.dataset.step)) : field.dataset.from;
  });

  // A zone that was typed while its proposal was on the way is not overwritten by it.
  document.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.target.id !== "zone-place") return;
    const { parameters } = event.detail.requestConfig;
    const sent = parameters.zone ?? parameters.get?.("zone") ?? "";
    if (document.getElementById("zone").value !== sent) event.detail.shouldSwap = false;
  });

  // On glass the device's own picker sets date and hour.
  const clocks = () => {
    if (!matchMedia("(pointer: coarse)").matches) return;
    for (const field of document.querySelectorAll("input[data-clock]:not([type=datetime-local])")) {
      const typed = field.value.trim();
      if (typed && !/^\d{4}-\d\d-\d\d \d\d:\d\d$/.test(typed)) continue;
      field.type = "datetime-local";
      field.defaultValue = field.value = typed.replace(" ", "T");
    }
  };
  // It goes back as it came, so that an hour left alone is one left alone.
  document.addEventListener("formdata", (event) => {
    for (const field of event.target.querySelectorAll("input[data-clock][type=datetime-local]"))
      if (field.name) event.formData.set(field.name, field.value.replace("T", " "));
  });

  document.addEventListener("submit", (event) => {
    const seen = event.target.elements?.seen;
    if (event.target.getAttribute("action") === "/settings/theme" && seen) seen.value = document.documentElement.dataset.bsTheme;
  }, true);

  // Where the focus was when a part of the page was swapped away under it.
  let focused = "", stood = 0;
  document.addEventListener("htmx:beforeSwap", () => {
    focused = document.activeElement?.id || "";
    stood = document.activeElement?.getBoundingClientRect().top ?? 0;
  });
  const refocus = () => {
    const wanted = document.querySelector("[data-focus]");
    if (wanted) {
      wanted.removeAttribute("data-focus");
      wanted.focus({ preventScroll: true });
      // It comes to stand under the hand that asked for it.
      window.scrollBy(0, wanted.getBoundingClientRect().top - Math.min(Math.max(stood, 80), window.innerHeight - 160));
    } else if (focused && document.activeElement === document.body) {
      (document.getElementById(focused) || document.getElementById("main"))?.focus({ preventScroll: true });
    }
  };
  document.addEventListener("htmx:afterSettle", () => {
    unfold();
    clocks();
    refocus();
  });
  for (const kind of ["motilis:page", "DOMContentLoaded"])
    document.addEventListener(kind, () => {
      unfold();
      clocks();
    });

  // Of more than a list shows, others are found by their words.
  const LISTED = 80;
  const FIND = { rig: ["rigs", ""], left: ["rigs", ""], right: ["rigs", ""], a_rig: ["rigs", ""], b_rig: ["rigs", ""], tackle: ["rigs", "rig-"], outing: ["outings", ""] };
  const look = async (select, what, before, words) => {
    const answer = await fetch(`/find/${what}?q=${encodeURIComponent(words)}`).catch(() => null);
    if (!answer?.ok) return;
    const others = [...select.options].filter((one) => one.selected || (before && !one.value.startsWith(before)));
    const kept = new Set(others.map((one) => one.value));
    const found = (await answer.json()).map(([value, label]) => new Option(label, before + value)).filter((one) => !kept.has(one.value));
    select.replaceChildren(...found, ...others);
    select.dataset.found = String(found.length);
  };
  const seek = () => {
    for (const select of document.querySelectorAll("main select")) {
      const [what, before] = FIND[select.name] || [];
      if (!what || select.options.length < LISTED || select.previousElementSibling?.className === "find") continue;
      const field = document.createElement("input");
      field.type = "search";
      field.className = "find";
      const named = select.labels[0]?.textContent ?? what;
      field.placeholder = `Find another ${named.toLowerCase()}`;
      field.setAttribute("aria-label", field.placeholder);
      let timer = 0;
      field.addEventListener("input", (event) => {
        event.stopPropagation();
        clearTimeout(timer);
        timer = setTimeout(() => look(select, what, before, field.value), 200);
      });
      field.addEventListener("change", (event) => event.stopPropagation());
      field.addEventListener("keydown", (event) => {
        event.stopPropagation();
        if (event.key === "Enter") event.preventDefault();
      });
      select.before(field);
    }
  };
  seek();
  document.addEventListener("motilis:page", seek);
  document.addEventListener("htmx:afterSettle", seek);
})();
