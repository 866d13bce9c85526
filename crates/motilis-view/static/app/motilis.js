// What a page cannot do by markup alone: keys, sliders, lists that submit themselves.
(() => {
  "use strict";
  const KEYS_OFF = "motilis-keys-off";
  const at = (id) => document.getElementById(id);
  const doors = { t: "/today", b: "/bench", k: "/tank", s: "/spread", o: "/boat", r: "/river", l: "/log", x: "/box", w: "/waters" };

  const isTyping = (element) =>
    element instanceof HTMLElement &&
    (element.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(element.tagName));

  const press = (id) => {
    const button = at(id);
    if (button) button.click();
  };

  // The part ahead of or behind the one in hand.
  const pick = (by) => {
    const all = [...document.querySelectorAll(".piece-pick")];
    const now = all.findIndex((one) => one.hasAttribute("aria-current"));
    const next = all[now < 0 ? (by > 0 ? 0 : all.length - 1) : now + by];
    if (next) next.click();
  };

  // Moves the dimension in hand a step, five with Shift; on the rail the arrows walk from peg to peg.
  const nudge = (event, by) => {
    const peg = document.activeElement?.closest?.(".peg");
    if (peg) {
      const next = by > 0 ? peg.nextElementSibling : peg.previousElementSibling;
      if (next?.matches(".peg")) next.focus();
      return;
    }
    const button = at(by > 0 ? "dim-more" : "dim-less");
    const other = at(by > 0 ? "dim-less" : "dim-more");
    if (!button) return;
    if (event.shiftKey) {
      const step = (Number(button.value) - Number(other.value)) / 2;
      button.value = (Number(button.value) + 4 * step).toFixed(6);
    }
    button.click();
  };

  const single = {
    "[": () => press("slower"),
    "]": () => press("faster"),
    n: () => press("theme"),
    f: () => press("fish-on"),
    p: () => (at("print-sheet") ? at("print-sheet").click() : window.print()),
    b: () => press("bay-blade"),
    d: () => press("bay-bead"),
    h: () => press("bay-hook"),
    c: () => press("bay-clevis"),
    u: () => press("undo"),
    r: () => press("redo"),
    ",": () => pick(-1),
    ".": () => pick(1),
    "<": () => press("move-ahead"),
    ">": () => press("move-behind"),
    "+": () => press("more"),
    "-": () => press("fewer"),
    y: () => press("duplicate"),
    Delete: () => press("remove"),
    ArrowLeft: (event) => nudge(event, -1),
    ArrowRight: (event) => nudge(event, 1),
    "?": () => at("keys").showModal(),
  };

  // A key pressed while the board is drawn anew waits for it: its button is about to be another one.
  const waiting = [];
  let redrawn = true;
  const isBoard = (element) => element?.id === "bench";
  const goOn = () => {
    redrawn = true;
    while (redrawn && waiting.length) waiting.shift()();
  };
  document.addEventListener("htmx:beforeRequest", (event) => {
    if (isBoard(event.detail.target)) redrawn = false;
  });
  document.addEventListener("htmx:afterSettle", (event) => {
    if (isBoard(event.target)) goOn();
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (!isBoard(event.detail.target) || event.detail.successful) return;
    waiting.length = 0;
    redrawn = true;
  });

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
      const arrow = event.key.startsWith("Arrow");
      if (arrow && !at("dim-more") && !document.activeElement?.closest?.(".peg")) return;
      event.preventDefault();
      if (redrawn) single[event.key](event);
      else waiting.push(() => single[event.key](event));
    }
  });

  // The board: true size by the device's own factor, zoom, dragging a part along the shaft.
  const CARD = "motilis-card", ZOOM = "motilis-zoom", CARD_MM = 85.6;
  const factor = () => (Number(localStorage.getItem(CARD)) || 1) * (Number(localStorage.getItem(ZOOM)) || 1);
  const scale = () => {
    for (const drawing of document.querySelectorAll(".bench-drawing[data-width]")) {
      if (drawing.closest(".rig-inset")) continue;
      const width = Number(drawing.dataset.width);
      const [, , w, h] = drawing.getAttribute("viewBox").split(" ").map(Number);
      drawing.setAttribute("width", width * factor());
      drawing.setAttribute("height", (width * factor() * h) / w);
    }
    for (const button of document.querySelectorAll("[data-zoom]"))
      button.setAttribute("aria-pressed", String((localStorage.getItem(ZOOM) || "1") === button.dataset.zoom));
    const card = at("card");
    if (card) card.textContent = localStorage.getItem(CARD) ? "1:1 checked" : "Check 1:1";
  };

  document.addEventListener("click", (event) => {
    const zoom = event.target.closest?.("[data-zoom]");
    if (zoom) {
      localStorage.setItem(ZOOM, zoom.dataset.zoom);
      scale();
    }
    if (event.target.closest?.("#card")) at("card-check").showModal();
    if (event.target.closest?.("#print")) window.print();
    if (event.target.closest?.("#card-keep")) {
      localStorage.setItem(CARD, String(Number(at("card-bar").value) / (CARD_MM * 96 / 25.4)));
      scale();
    }
  });
  document.addEventListener("input", (event) => {
    if (event.target.id === "card-bar") at("card-shape").setAttribute("width", event.target.value);
  });

  let drag = null, haul = null;
  const place = (event) => {
    const drawing = drag.piece.ownerSVGElement;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing.getScreenCTM().inverse());
    return point.x;
  };
  document.addEventListener("pointerdown", (event) => {
    const piece = event.target.closest?.(".bench-board .piece");
    if (!piece || event.button !== 0) return;
    drag = { piece, from: event.clientX, moved: false };
  });
  // A finger drags after a hold; before that it scrolls. A drag that the browser takes away is none. The hold is
  // measured by the finger's own time: a page that is late with its events must not make a drag of a swipe.
  const HOLD = 350;
  let hold = 0;
  const held = (event) => event.pointerType === "mouse" || event.timeStamp - hold > HOLD;
  document.addEventListener("pointerdown", (event) => { hold = event.timeStamp; }, true);
  document.addEventListener("touchmove", (event) => {
    const meant = drag?.moved || haul?.moved || ((drag || haul) && event.timeStamp - hold > HOLD);
    if (meant && event.cancelable) event.preventDefault();
  }, { passive: false });
  // A hold asks for no menu where it begins a drag.
  document.addEventListener("contextmenu", (event) => {
    if (drag || haul) event.preventDefault();
  });
  document.addEventListener("pointercancel", () => {
    drag?.piece.classList.remove("piece-dragged");
    drag?.piece.ownerSVGElement.querySelector(".drop-line")?.remove();
    haul?.rig?.classList.remove("sp-dragged");
    drag = haul = null;
  });
  document.addEventListener("pointermove", (event) => {
    if (!drag) return;
    if (!drag.moved && !held(event)) {
      if (Math.abs(event.clientX - drag.from) > 10) drag = null;
      return;
    }
    if (!drag.moved && Math.abs(event.clientX - drag.from) < 6) return;
    drag.moved = true;
    drag.piece.classList.add("piece-dragged");
    const drawing = drag.piece.ownerSVGElement;
    let line = drawing.querySelector(".drop-line");
    if (!line) {
      line = document.createElementNS("http://www.w3.org/2000/svg", "path");
      line.setAttribute("class", "drop-line");
      drawing.append(line);
    }
    line.setAttribute("d", `M${place(event)} 20V${drawing.viewBox.baseVal.height - 70}`);
  });
  document.addEventListener("pointerup", (event) => {
    if (!drag) return;
    const { piece, moved } = drag;
    const x = place(event);
    drag = null;
    const own = Number(piece.dataset.at);
    if (!moved) {
      const link = at(`pick-${own}`);
      if (link) link.click();
      return;
    }
    // It comes to stand behind every other part whose middle lies ahead of where it was dropped.
    const others = [...piece.ownerSVGElement.querySelectorAll(".piece")].filter((one) => one !== piece);
    const to = others.filter((one) => Number(one.dataset.x) < x).length;
    const form = at("drag-move");
    form.elements.at.value = own;
    form.elements.to.value = to;
    if (to === own) {
      piece.classList.remove("piece-dragged");
      piece.ownerSVGElement.querySelector(".drop-line")?.remove();
    } else form.requestSubmit();
  });

  // A swap keeps the drawing and the rail where they were scrolled to.
  const kept = {};
  const scrolled = ["board", "rail"];
  document.addEventListener("htmx:beforeSwap", () => {
    for (const id of scrolled) kept[id] = (id === "rail" ? document.querySelector(".pegs") : at(id))?.scrollLeft;
  });
  document.addEventListener("htmx:afterSettle", () => {
    scale();
    if (at("board") && kept.board) at("board").scrollLeft = kept.board;
    const pegs = document.querySelector(".pegs");
    if (pegs && kept.rail) pegs.scrollLeft = kept.rail;
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

  // The spread: a line looked at in one view shows in the other and in the list.
  const lineOf = (element) => element?.closest?.("[data-line]")?.dataset.line;
  const light = (event) => {
    const line = lineOf(event.target);
    for (const one of document.querySelectorAll(".sp-line, .line-row"))
      one.classList.toggle("sp-hover", Boolean(line) && one.dataset.line === line);
  };
  for (const kind of ["pointerover", "focusin"]) document.addEventListener(kind, light);

  // A rig dragged up or down asks for another depth, a rod's number for another holder.
  document.addEventListener("pointerdown", (event) => {
    if (event.button !== 0 || !at("drag-depth")) return;
    const rig = event.target.closest?.("#spread-view .sp-rig");
    const chip = event.target.closest?.(".rod-chip");
    if (!rig && !chip) return;
    haul = { rig, chip, line: lineOf(rig || chip), x: event.clientX, y: event.clientY, moved: false };
    if (rig && event.pointerType === "mouse") event.preventDefault();
  });
  document.addEventListener("pointermove", (event) => {
    if (!haul) return;
    // A chip is a handle; a rig under a finger wants a hold.
    if (!haul.moved && haul.rig && !held(event)) {
      if (Math.hypot(event.clientX - haul.x, event.clientY - haul.y) > 10) haul = null;
      return;
    }
    if (!haul.moved && Math.hypot(event.clientX - haul.x, event.clientY - haul.y) < 6) return;
    haul.moved = true;
    if (haul.rig) {
      const drawing = haul.rig.ownerSVGElement;
      haul.rig.classList.add("sp-dragged");
      const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing.getScreenCTM().inverse());
      const [x] = haul.rig.getAttribute("transform").match(/-?[\d.]+/g);
      haul.y1 = Math.max(Number(drawing.dataset.surface), point.y);
      haul.rig.setAttribute("transform", `translate(${x} ${haul.y1})`);
      if (event.pointerType !== "mouse") {
        // Over the finger, where it can be read.
        const tag = haul.rig.parentNode.querySelector(".sp-tag");
        const own = Number(tag.querySelector("rect").getAttribute("y"));
        tag.setAttribute("transform", `translate(0 ${haul.y1 - 96 - own})`);
      }
      haul.rig.parentNode.querySelector(".sp-depth").textContent =
        ((haul.y1 - Number(drawing.dataset.surface)) * Number(drawing.dataset.unit)).toFixed(0);
    } else {
      haul.over = document.elementFromPoint(event.clientX, event.clientY)?.closest(".holder");
      for (const box of document.querySelectorAll(".holder")) box.classList.toggle("holder-over", box === haul.over);
    }
  });
  document.addEventListener("pointerup", () => {
    if (!haul) return;
    const { rig, chip, line, moved, y1, over } = haul;
    haul = null;
    if (!moved) {
      if (rig) rig.parentNode.querySelector(".sp-tag").dispatchEvent(new MouseEvent("click", { bubbles: true }));
      return;
    }
    if (rig) {
      const drawing = rig.ownerSVGElement;
      const form = at("drag-depth");
      form.elements.line.value = line;
      form.elements.wanted.value = ((y1 - Number(drawing.dataset.surface)) * Number(drawing.dataset.unit)).toFixed(1);
      form.elements.speed.value = at("speed").value;
      form.requestSubmit();
      return;
    }
    // The click that ends a drag must not follow the chip's link.
    chip.addEventListener("click", (event) => event.preventDefault(), { once: true, capture: true });
    if (!over) return;
    const form = at("drag-holder");
    form.elements.line.value = line;
    form.elements.holder.value = over.dataset.holder;
    form.requestSubmit();
  });

  // A spread in motion: its lines moved over the drawing, frame by frame.
  const replay = (place) => {
    const drawing = place.querySelector(".spread-drawing");
    const slider = at("replay-at");
    const { stern, surface, keel, aft, across, down } = Object.fromEntries(
      Object.entries(drawing.dataset).map(([name, figure]) => [name, Number(figure)]));
    const every = Number(place.dataset.every);
    const path = (points) => points.map(([x, y], i) => `${i ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`).join("");
    const groups = [...drawing.querySelectorAll(".sp-line")].map((group) => {
      const tag = group.querySelector(".sp-tag");
      const rig = group.querySelector(".sp-rig");
      const from = rig?.getAttribute("transform").match(/-?[\d.]+/g).map(Number);
      return { group, tag, rig, from, line: Number(group.dataset.line) - 1 };
    });
    // Labels go with their rigs; one that would lie on another, or off the paper, goes as near as there is room.
    const stack = (labels) => {
      const placed = [];
      const of = ({ box, x, y }) => [Number(box.getAttribute("x")) + x, Number(box.getAttribute("y")) + y];
      for (const label of labels.sort((a, b) => of(a)[1] - of(b)[1])) {
        const [left, top] = of(label);
        const foot = drawing.viewBox.baseVal.height - 48;
        const near = placed.filter(([x]) => Math.abs(x - left) < 126);
        const spots = [...Array(60)].flatMap((_, i) => [top + 8 * i, top - 8 * i]);
        const fits = (y) => y <= foot && y >= surface && near.every(([, taken]) => Math.abs(taken - y) >= 48);
        const free = spots.find(fits) ?? top;
        placed.push([left, free]);
        label.tag.setAttribute("transform", `translate(${label.x} ${label.y + free - top})`);
      }
    };
    let frames = [], playing = 0, last = 0;
    const show = () => {
      const frame = frames[Number(slider.value)];
      if (!frame) return;
      at("replay-time").textContent = `${(Number(slider.value) * every).toFixed(0)} s`;
      at("replay-boat").textContent = frame.boat;
      const labels = [];
      drawing.querySelector(".sp-leads").setAttribute("visibility", "hidden");
      for (const { group, tag, rig, from, line } of groups) {
        const now = frame.lines[line];
        const above = now.points.map(([x, y]) => [stern + x * aft, keel - y * across]);
        const beside = now.points.map(([x, , z]) => [stern + x * aft, Math.max(surface + z * down, surface - 46)]);
        const end = (points) => points[points.length - 1];
        if (rig) {
          group.querySelector(".sp-side").setAttribute("d", path(beside));
          group.querySelector(".sp-air").setAttribute("d", "");
          group.querySelector(".sp-weight")?.setAttribute("visibility", "hidden");
          const [x, y] = end(beside);
          rig.setAttribute("transform", `translate(${x} ${y})`);
          labels.push({ tag, x: x - from[0], y: y - from[1], box: tag.querySelector("rect") });
          tag.querySelector(".sp-depth").textContent = now.depth;
          tag.querySelector(".sp-out").textContent = now.says;
          tag.setAttribute("class", `sp-tag sp-${now.mark}`);
          tag.querySelector("svg")?.setAttribute("visibility", "hidden");
        } else {
          group.querySelector(".sp-run").setAttribute("d", path(above));
          group.querySelector(".sp-plan-rig").setAttribute("transform", `translate(${end(above).join(" ")})`);
          const start = above[0];
          group.querySelector(".sp-tow").setAttribute("d", "");
          group.querySelector(".sp-board")?.setAttribute("transform", `translate(${start.join(" ")})`);
          const [bx, by] = end(above);
          const circle = group.querySelector(".sp-balloon circle");
          const home = [Number(circle.getAttribute("cx")), Number(circle.getAttribute("cy"))];
          group.querySelector(".sp-balloon").setAttribute("transform", `translate(${bx + 24 - home[0]} ${by - home[1]})`);
        }
      }
      stack(labels);
    };
    const tick = (time) => {
      if (!playing) return;
      const step = (1000 * every) / Number(at("pace").value);
      if (time - last >= step) {
        const by = Math.max(1, Math.floor((time - last) / step));
        last = time;
        const next = Number(slider.value) + by;
        slider.value = next > Number(slider.max) ? 0 : next;
        show();
      }
      playing = requestAnimationFrame(tick);
    };
    at("play").addEventListener("click", () => {
      if (playing) {
        cancelAnimationFrame(playing);
        playing = 0;
      } else {
        last = performance.now();
        playing = requestAnimationFrame(tick);
      }
      at("play").textContent = playing ? "Pause" : "Play";
    });
    slider.addEventListener("input", show);
    fetch(place.dataset.frames).then((answer) => answer.json()).then((all) => {
      frames = all;
      show();
      place.dataset.ready = "yes";
    });
  };
  const begin = () => {
    const place = at("motion-done");
    if (place && !place.dataset.begun) {
      place.dataset.begun = "yes";
      replay(place);
    }
  };
  document.addEventListener("htmx:afterSettle", begin);

  // The tank's blades turn as computed, slowed; they stand still for those who want no motion.
  const still = window.matchMedia("(prefers-reduced-motion: reduce)");
  const turn = () => {
    if (still.matches) return;
    for (const blade of document.querySelectorAll(".turning[data-turns]")) {
      const turns = Number(blade.dataset.turns) / Number(blade.dataset.slow);
      if (turns > 0 && !blade.getAnimations().length)
        "sways" in blade.dataset
          ? blade.animate([{ transform: "rotate(-40deg)" }, { transform: "rotate(40deg)" }],
              { duration: 500 / turns, iterations: Infinity, direction: "alternate", easing: "ease-in-out" })
          : blade.animate([{ transform: "rotate(0deg)" }, { transform: "rotate(360deg)" }],
              { duration: 1000 / turns, iterations: Infinity });
    }
  };
  document.addEventListener("htmx:afterSettle", turn);

  const open = () => {
    begin();
    turn();
    scale();
    at("keys-on").checked = !localStorage.getItem(KEYS_OFF);
  };
  document.addEventListener("motilis:page", open);
  document.addEventListener("DOMContentLoaded", open);
  document.addEventListener("click", (event) => {
    if (event.target.closest?.("#keys-open, #keys-open-phone")) at("keys").showModal();
  });
  document.addEventListener("change", (event) => {
    if (event.target.id !== "keys-on") return;
    if (event.target.checked) localStorage.removeItem(KEYS_OFF);
    else localStorage.setItem(KEYS_OFF, "1");
  });
})();
