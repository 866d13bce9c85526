// What a page cannot do by markup alone: keys, sliders, lists that submit themselves.
(() => {
  "use strict";
  const KEYS_OFF = "motilis-keys-off";
  const at = (id) => document.getElementById(id);
  const doors = { t: "/today", k: "/tank", l: "/log" };

  const isTyping = (element) =>
    element instanceof HTMLElement &&
    (element.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(element.tagName));

  const press = (id) => {
    const button = at(id);
    if (button) button.click();
  };

  const single = {
    "[": () => press("slower"),
    "]": () => press("faster"),
    n: () => press("theme"),
    f: () => press("fish-on"),
    p: () => window.print(),
    "?": () => at("keys").showModal(),
  };

  let going = false;
  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
    if (localStorage.getItem(KEYS_OFF) || at("keys").open) return;
    if (going) {
      going = false;
      if (doors[event.key]) window.location.assign(doors[event.key]);
      return;
    }
    if (event.key === "g") {
      going = true;
      window.setTimeout(() => { going = false; }, 1500);
    } else if (single[event.key]) {
      event.preventDefault();
      single[event.key]();
    }
  });

  // A slider writes into its field; the field then speaks for both.
  document.addEventListener("input", (event) => {
    const slider = event.target;
    if (slider.matches?.("input[type=range][data-for]")) {
      event.stopPropagation();
      const field = at(slider.dataset.for);
      field.value = slider.value;
      field.dispatchEvent(new Event("input", { bubbles: true }));
    } else if (slider.matches?.("input[name]")) {
      const partner = document.querySelector(`input[type=range][data-for="${slider.id}"]`);
      const figure = Number.parseFloat(slider.value.replace(",", "."));
      if (partner && Number.isFinite(figure)) partner.value = figure;
    }
  });

  document.addEventListener("change", (event) => {
    const form = event.target.form;
    if (form && form.hasAttribute("data-submit-on-change")) form.requestSubmit();
  });

  // A stepper counts tenths of the unit shown in the field itself, so that quick taps all count.
  document.addEventListener("click", (event) => {
    const step = event.target.closest?.("button[name=step]");
    if (!step) return;
    const field = at("speed");
    const figure = Number.parseFloat(field.value.replace(",", "."));
    if (!Number.isFinite(figure)) return;
    event.preventDefault();
    field.value = Math.max(0, (Math.round(figure * 10) + Number(step.value)) / 10).toFixed(1);
    for (const kind of ["input", "change"]) field.dispatchEvent(new Event(kind, { bubbles: true }));
  });

  document.addEventListener("DOMContentLoaded", () => {
    at("keys-open").addEventListener("click", () => at("keys").showModal());
    const box = at("keys-on");
    box.checked = !localStorage.getItem(KEYS_OFF);
    box.addEventListener("change", () => {
      if (box.checked) localStorage.removeItem(KEYS_OFF);
      else localStorage.setItem(KEYS_OFF, "1");
    });
  });
})();
