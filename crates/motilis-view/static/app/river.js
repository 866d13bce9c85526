// A river's own: a leaf on the watch, the landing point under the finger, a tap where the fish lies, a sink counted down.
"use strict";
(() => {
  const at = (id) => document.getElementById(id);
  const tell = (field) => field.dispatchEvent(new Event("input", { bubbles: true }));

  // The watch measures by the hand's own time, not by when the page comes to it.
  let began = null;
  document.addEventListener("click", (event) => {
    const go = event.target.closest?.("#leaf-go");
    if (!go) return;
    if (began === null) {
      began = event.timeStamp;
      go.textContent = "Stop";
      at("leaf-time").textContent = "…";
      return;
    }
    const seconds = (event.timeStamp - began) / 1000;
    began = null;
    go.textContent = "Start the watch";
    const words = `${at("leaf-way").value.trim()} in ${seconds.toFixed(1)} s`;
    at("leaf-time").textContent = words;
    const rows = [...document.querySelectorAll("input[name^=surface_]")];
    const empty = rows.find((field) => field.value.trim() === "");
    if (empty) {
      empty.value = words;
      tell(empty);
    }
  });

  // The plan says how its pixels lie on the water.
  const hand = (plan) => {
    const [scale, side, standX, standY, headX, bottom] = plan.dataset.hand.split(" ").map(Number);
    return { scale, side, standX, standY, headX, bottom };
  };
  const on = (plan, event) => {
    const box = plan.getBoundingClientRect();
    const zoom = plan.viewBox.baseVal.width / box.width;
    return [(event.clientX - box.left) * zoom, (event.clientY - box.top) * zoom];
  };
  const metric = () => document.querySelector("#cast-form input[name=_units]")?.value === "metric";
  const throwTo = (plan, event) => {
    const { scale, side, standX, standY } = hand(plan);
    const [x, y] = on(plan, event);
    const down = (side * (x - standX)) / scale;
    const across = Math.max(0, (standY - y) / scale);
    const angle = Math.min(180, Math.max(0, (Math.atan2(across, down) * 180) / Math.PI));
    const far = Math.hypot(down, across) / (metric() ? 1 : 0.3048);
    at("cast_angle").value = angle.toFixed(0);
    at("distance").value = far.toFixed(1);
    return [x, y];
  };
  let drag = null;
  document.addEventListener("pointerdown", (event) => {
    const landing = event.target.closest?.(".landing");
    if (!landing) return;
    event.preventDefault();
    drag = { plan: landing.closest("svg"), landing, id: event.pointerId };
    landing.setPointerCapture?.(event.pointerId);
  });
  document.addEventListener("pointermove", (event) => {
    if (!drag || event.pointerId !== drag.id) return;
    const [x, y] = throwTo(drag.plan, event);
    for (const circle of drag.landing.querySelectorAll("circle")) {
      circle.setAttribute("cx", x);
      circle.setAttribute("cy", y);
    }
  });
  const let_go = (event) => {
    if (!drag || event.pointerId !== drag.id) return;
    const done = drag;
    drag = null;
    if (event.type === "pointerup") {
      throwTo(done.plan, event);
      tell(at("distance"));
      tell(at("cast_angle"));
    } else {
      tell(at("lie"));
    }
  };
  document.addEventListener("pointerup", let_go);
  document.addEventListener("pointercancel", let_go);

  // A tap on the water is where the fish lies; a finger that scrolls over it is none.
  document.addEventListener("click", (event) => {
    const plan = event.target.closest?.("svg.run-plan");
    if (!plan || !at("lie-at") || event.target.closest(".landing")) return;
    const { scale, side, headX, bottom } = hand(plan);
    const [x, y] = on(plan, event);
    const along = (side * (x - headX)) / scale;
    const across = (bottom - y) / scale;
    if (along < 0 || across < 0) return;
    at("lie-at").value = `${along.toFixed(2)},${across.toFixed(2)}`;
    at("lie").value = "at";
    tell(at("lie"));
  });

  // Seconds to the bed, large enough for a wet hand.
  let counting = null;
  document.addEventListener("click", (event) => {
    const button = event.target.closest?.("#sink-count");
    if (!button) return;
    clearInterval(counting);
    const until = performance.now() + 1000 * Number(button.dataset.seconds);
    const show = () => {
      const left = Math.ceil((until - performance.now()) / 1000);
      const says = at("sink-left");
      if (!says || left <= 0) clearInterval(counting);
      if (says) says.textContent = left > 0 ? `${left}` : "reel";
    };
    show();
    counting = setInterval(show, 100);
  });
})();
