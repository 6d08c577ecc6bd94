/** A drawing of the page as a file of its own: SVG with all its colours and pictures in it, or PNG of that. */
import { downloadBlob } from "./download";

const NAMESPACE = "http://www.w3.org/2000/svg";
const VARIABLE = /var\((--[\w-]+)\)/g;
const PNG_SCALE = 2;

/** The drawing as a text that stands by itself. */
export async function svgText(drawing: SVGSVGElement, background: string): Promise<string> {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  copy.setAttribute("xmlns", NAMESPACE);
  copy.setAttribute("viewBox", `0 0 ${drawing.clientWidth} ${drawing.clientHeight}`);
  copy.setAttribute("font-family", getComputedStyle(document.body).fontFamily);
  copy.removeAttribute("style");
  for (const image of copy.querySelectorAll("image")) {
    const address = image.getAttribute("href") ?? "";
    if (address && !address.startsWith("data:")) image.setAttribute("href", await asData(address));
  }
  const paper = document.createElementNS(NAMESPACE, "rect");
  for (const [key, value] of [
    ["width", "100%"],
    ["height", "100%"],
    ["fill", background],
  ] as const)
    paper.setAttribute(key, value);
  copy.prepend(paper);
  const inks = getComputedStyle(document.documentElement);
  return new XMLSerializer()
    .serializeToString(copy)
    .replace(VARIABLE, (_, name: string) => inks.getPropertyValue(name).trim());
}

async function asData(address: string): Promise<string> {
  const blob = await (await fetch(address)).blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error("the picture cannot be read"));
    reader.readAsDataURL(blob);
  });
}

/** Hand a drawing to the browser as an SVG or PNG file. */
export async function savePicture(
  drawing: SVGSVGElement,
  kind: "svg" | "png",
  name: string,
  background: string,
): Promise<void> {
  const text = await svgText(drawing, background);
  const file = `${name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}.${kind}`;
  const svg = new Blob([text], { type: "image/svg+xml" });
  if (kind === "svg") {
    downloadBlob(svg, file);
    return;
  }
  const address = URL.createObjectURL(svg);
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const canvas = document.createElement("canvas");
    canvas.width = drawing.clientWidth * PNG_SCALE;
    canvas.height = drawing.clientHeight * PNG_SCALE;
    canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/png"));
    if (blob) downloadBlob(blob, file);
  } finally {
    URL.revokeObjectURL(address);
  }
}

/** Several drawings, one under the other, as one file. */
export async function saveStacked(
  drawings: readonly SVGSVGElement[],
  kind: "svg" | "png",
  name: string,
): Promise<void> {
  const whole = document.createElementNS(NAMESPACE, "svg");
  let top = 0;
  for (const drawing of drawings) {
    const group = document.createElementNS(NAMESPACE, "g");
    group.setAttribute("transform", `translate(0 ${top})`);
    group.append(...[...drawing.cloneNode(true).childNodes]);
    whole.append(group);
    top += drawing.clientHeight;
  }
  whole.setAttribute("width", String(Math.max(0, ...drawings.map((drawing) => drawing.clientWidth))));
  whole.setAttribute("height", String(top));
  whole.style.position = "absolute";
  whole.style.left = "-100000px"; // it is measured where nobody sees it
  document.body.append(whole);
  try {
    await savePicture(whole, kind, name, getComputedStyle(document.body).backgroundColor);
  } finally {
    whole.remove();
  }
}
