/** A strip that is printed and stuck beside a tank's gauge: what it holds at each level. */
export interface Mark {
  level: number;
  text: string;
  litres: string;
}

const WIDTH_MM = 60;
const TOP_MM = 22;
const LONGEST_MM = 250; // an A4 sheet; a higher tank's strip is to scale, and says so

/** Return the strip as an SVG picture whose units are millimetres, at full size where it fits on a sheet. */
export function levelStrip(title: string, marks: Mark[]): string {
  const highest = Math.max(...marks.map((mark) => mark.level), 0.01);
  const scale = Math.min(1, LONGEST_MM / (highest * 1000));
  const foot = TOP_MM + highest * 1000 * scale;
  const lines = marks.map((mark) => {
    const y = (foot - mark.level * 1000 * scale).toFixed(2);
    return `<path d="M4 ${y}H22" stroke="#000" stroke-width=".3"/><text x="24" y="${Number(y) + 1}">${clean(mark.text)}</text><text x="56" y="${Number(y) + 1}" text-anchor="end">${clean(mark.litres)}</text>`;
  });
  const told = scale === 1 ? "full size: print at 100 %" : `scale 1 : ${(1 / scale).toFixed(2)}`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH_MM}mm" height="${(foot + 8).toFixed(1)}mm" viewBox="0 0 ${WIDTH_MM} ${(foot + 8).toFixed(1)}" font-family="sans-serif" font-size="3"><text x="4" y="7" font-size="4" font-weight="bold">${clean(title)}</text><text x="4" y="13">volume from the floor up, ${told}</text><path d="M4 ${TOP_MM}V${foot.toFixed(2)}" stroke="#000" stroke-width=".3"/>${lines.join("")}</svg>\n`;
}

function clean(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");
}
