/** What of the style of a drawing is written into it, so that it looks the same anywhere. */
const WRITTEN = ["fill", "stroke", "opacity"] as const;

/** A copy of a part of a drawing: colours as they are here instead of variables, and nothing that only a page needs. */
const plainCopy = <T extends SVGElement>(of: T): T => {
  const copy = of.cloneNode(true) as T;
  const [ours, theirs] = [of.querySelectorAll<SVGElement>("*"), copy.querySelectorAll<SVGElement>("*")];
  for (const [at, element] of theirs.entries()) {
    const style = ours[at] && getComputedStyle(ours[at]);
    for (const property of WRITTEN)
      if (style && element.hasAttribute(property)) element.setAttribute(property, style.getPropertyValue(property));
    for (const name of ["class", "role", "tabindex", "aria-label", "aria-pressed", "id"]) element.removeAttribute(name);
  }
  return copy;
};

/** A drawing as a file of its own, with what lies below it, and a ground behind. */
const standalone = (svg: SVGSVGElement, title: string): string => {
  const copy = plainCopy(svg);
  const page = getComputedStyle(svg);
  const laid = svg.parentElement?.querySelector<SVGSVGElement>("[data-laid]");
  if (laid) {
    const group = document.createElementNS("http://www.w3.org/2000/svg", "g");
    group.setAttribute("opacity", getComputedStyle(laid).opacity);
    group.append(...plainCopy(laid).childNodes);
    copy.prepend(group);
  }
  const ground = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  for (const [name, value] of Object.entries({
    width: "100%",
    height: "100%",
    fill: page.getPropertyValue("--ground").trim(),
  }))
    ground.setAttribute(name, value);
  copy.prepend(ground);
  for (const name of ["class", "role"]) copy.removeAttribute(name);
  copy.setAttribute("aria-label", title);
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("font-family", page.fontFamily);
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(copy)}\n`;
};

/** Hands a drawing over as an SVG file. */
export const saveSvg = (svg: SVGSVGElement, title: string): void => {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([standalone(svg, title)], { type: "image/svg+xml" }));
  link.download = `${title}.svg`;
  link.click();
  URL.revokeObjectURL(link.href);
};
