/** Reads what somebody typed as a number, and never guesses: what may be two numbers is asked about. */

export type Reading =
  | { kind: "empty" }
  | { kind: "number"; value: number }
  /** it may be any of these */
  | { kind: "unclear"; values: number[] }
  | { kind: "nonsense" };

const FRACTIONS: Record<string, string> = {
  "½": "1/2",
  "¼": "1/4",
  "¾": "3/4",
  "⅛": "1/8",
  "⅜": "3/8",
  "⅝": "5/8",
  "⅞": "7/8",
  "⅓": "1/3",
  "⅔": "2/3",
};
const number = (value: number): Reading =>
  Number.isFinite(value) ? { kind: "number", value } : { kind: "nonsense" };

/**
 * A point or a comma before the decimals, spaces or apostrophes between thousands, an exponent, or a fraction as inches
 * have it: "1.5", "1,5", "12 500", "1e3", "3/4", "1 1/2". "1,200" may be 1200 or 1.2.
 */
export function readNumber(typed: string): Reading {
  const text = typed.trim().replace(/[\u2212\u2013]/g, "-");
  if (text === "") return { kind: "empty" };
  const fraction = asFraction(text);
  if (fraction !== null) return number(fraction);
  // a space between thousands, also a thin or a fixed one
  const joined = /^[+-]?\d{1,3}(?:[\s\u2019']\d{3})+(?:[.,]\d*)?$/.test(text)
    ? text.replace(/[\s\u2019']/g, "")
    : text;
  if (/^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d{1,3})?$/.test(joined)) return number(Number(joined));
  if (/^[+-]?\d{1,3}(?:,\d{3})+\.\d*$/.test(joined) || /^[+-]?\d{1,3}(?:,\d{3}){2,}$/.test(joined))
    return number(Number(joined.replace(/,/g, "")));
  if (/^[+-]?\d{1,3}(?:\.\d{3})+,\d*$/.test(joined) || /^[+-]?\d{1,3}(?:\.\d{3}){2,}$/.test(joined))
    return number(Number(joined.replace(/\./g, "").replace(",", ".")));
  if (!/^[+-]?(?:\d+,\d*|,\d+)$/.test(joined)) return { kind: "nonsense" };
  const decimal = Number(joined.replace(",", "."));
  // three figures after the one comma, and a whole number before it that no leading zero makes a decimal
  return /^[+-]?[1-9]\d{0,2},\d{3}$/.test(joined)
    ? { kind: "unclear", values: [Number(joined.replace(",", "")), decimal] }
    : number(decimal);
}

/** A fraction, with a whole number before it or not; null where it is none. */
function asFraction(text: string): number | null {
  const written = text.replace(/[½¼¾⅛⅜⅝⅞⅓⅔]/g, (sign) => ` ${FRACTIONS[sign] ?? ""}`).trim();
  const found = /^([+-]?)(?:(\d+)[\s-]+)?(\d+)\s*\/\s*(\d+)$/.exec(written);
  if (!found) return null;
  const [, sign, whole = "0", over = "", under = ""] = found;
  return (sign === "-" ? -1 : 1) * (Number(whole) + Number(over) / Number(under));
}
