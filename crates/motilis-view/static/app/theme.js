// Before anything is painted: day or night as the device is set, where nobody chose here.
(() => {
  "use strict";
  const page = document.documentElement;
  if (page.dataset.bsTheme !== "device") return;
  page.dataset.bsTheme = matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
})();
