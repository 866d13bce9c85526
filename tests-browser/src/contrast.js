// Runs in the page: every visible text against the first opaque colour painted behind its middle.
const ratioWanted = arguments[0];
const canvas = document.createElement("canvas").getContext("2d", { willReadFrequently: true });
const rgba = (colour) => {
  canvas.clearRect(0, 0, 1, 1);
  canvas.fillStyle = colour;
  canvas.fillRect(0, 0, 1, 1);
  return canvas.getImageData(0, 0, 1, 1).data;
};
const luminance = ([r, g, b]) => {
  const part = (v) => { v /= 255; return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4; };
  return 0.2126 * part(r) + 0.7152 * part(g) + 0.0722 * part(b);
};
const painted = (element) => {
  const style = getComputedStyle(element);
  if (Number(style.opacity) < 1) return null;
  if (element instanceof SVGElement && element.tagName !== "svg") {
    if (!["rect", "path", "ellipse", "circle"].includes(element.tagName)) return null;
    if (style.fill === "none" || style.fill.startsWith("url")) return null;
    return style.fill;
  }
  return rgba(style.backgroundColor)[3] === 255 ? style.backgroundColor : null;
};
const poor = [];
let looked = 0;
for (const element of document.querySelectorAll("body *")) {
  const isSvg = element.tagName === "text";
  const own = [...element.childNodes].some((node) => node.nodeType === 3 && node.textContent.trim());
  const isField = ["INPUT", "SELECT"].includes(element.tagName) && element.type !== "hidden" && element.type !== "range" && element.type !== "checkbox";
  if (!isSvg && !own && !isField) continue;
  if (["SCRIPT", "STYLE", "NOSCRIPT", "TITLE", "OPTION"].includes(element.tagName)) continue;
  if (!element.checkVisibility() || element.closest(".visually-hidden, .skip, dialog, desc")) continue;
  let box = element.getBoundingClientRect();
  if (box.top < 0 || box.left < 0 || box.bottom > innerHeight || box.right > innerWidth) {
    element.scrollIntoView({ block: "start", inline: "nearest" });
    // Clear of what is fixed at the head.
    window.scrollBy(0, -innerHeight / 8);
    box = element.getBoundingClientRect();
  }
  if (!isSvg && !isField) {
    const range = document.createRange();
    range.selectNodeContents(element);
    box = range.getClientRects()[0] || box;
  }
  if (box.width < 1 || box.height < 1) continue;
  const stack = document.elementsFromPoint(box.left + Math.min(box.width / 2, 6), box.top + box.height / 2);
  const from = stack.indexOf(element);
  const behind = (from < 0 ? stack : stack.slice(isSvg ? from + 1 : from)).map(painted).find(Boolean);
  if (!behind) continue;
  const style = getComputedStyle(element);
  const ink = luminance(rgba(isSvg ? style.fill : style.color));
  const paper = luminance(rgba(behind));
  const ratio = (Math.max(ink, paper) + 0.05) / (Math.min(ink, paper) + 0.05);
  looked += 1;
  if (ratio < ratioWanted) {
    poor.push(`${ratio.toFixed(2)} ${isSvg ? style.fill : style.color} on ${behind}: ${(element.textContent || element.value).trim().slice(0, 40)}`);
  }
}
window.scrollTo(0, 0);
if (looked < 20) poor.push(`only ${looked} texts were found, so this proves nothing`);
return poor;
