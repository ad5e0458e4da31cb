/** What a picture looks like, and what of it a file must say itself: there are no style sheets and no variables in one. */
const LOOKS = [
  "fill",
  "fill-opacity",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "stroke-opacity",
  "opacity",
  "font-family",
  "font-size",
  "font-weight",
  "text-anchor",
  "dominant-baseline",
] as const;

/** A drawing on the page as a file of its own. */
export function svgOf(svg: SVGSVGElement) {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const box = svg.viewBox.baseVal;
  const size = svg.getBoundingClientRect();
  const [w, h] = box.width ? [box.width, box.height] : [size.width, size.height];
  if (!box.width) copy.setAttribute("viewBox", `0 0 ${w} ${h}`);
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", String(w));
  copy.setAttribute("height", String(h));
  copy.removeAttribute("style");
  copy.removeAttribute("class");
  const from = svg.querySelectorAll("*");
  copy.querySelectorAll("*").forEach((to, i) => {
    const style = getComputedStyle(from[i]!);
    for (const look of LOOKS) {
      const v = style.getPropertyValue(look);
      if (v) to.setAttribute(look, v);
    }
    to.removeAttribute("class");
    to.removeAttribute("style");
  });
  const paper = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  paper.setAttribute("width", "100%");
  paper.setAttribute("height", "100%");
  paper.setAttribute("fill", getComputedStyle(svg).getPropertyValue("--panel").trim() || "#fff");
  copy.prepend(paper);
  return new XMLSerializer().serializeToString(copy);
}

/** Rows as CSV: a text with a separator or a quote in it is quoted. */
export const csvOf = (rows: (string | number)[][]) =>
  rows
    .map((r) =>
      r
        .map((v) => {
          const text = String(v);
          // What a spreadsheet would take for a formula is kept as the text that it is.
          const safe = typeof v === "string" && /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
          return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
        })
        .join(","),
    )
    .join("\r\n") + "\r\n";

/** Gives a text to be kept as a file. */
export function save(name: string, type: string, text: string) {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const a = document.createElement("a");
  a.href = url;
  a.download = name;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}
