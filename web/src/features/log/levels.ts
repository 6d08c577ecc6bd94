/** Levels over time as a line in a picture. */
import type { Levels } from "../../api/types";

export interface Frame {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export interface Span {
  /** [ms since 1970] */
  from: number;
  to: number;
  most_m: number;
  midnights: number[];
}

type Series = Levels["readings"];
const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;
const ROOM = 1.1; // over the highest

/** From when to when, and how high, all series of a vessel go; dipsticks of long ago are left out. */
export function spanOf({
  readings,
  stick,
  expected,
  full_m,
  since = null,
}: Pick<Levels, "readings" | "stick" | "full_m"> & { expected: Series; since?: Levels["since"] }): Span {
  const whens = [...readings, ...expected].map(([when]) => Date.parse(when));
  if (since) whens.push(Date.parse(since[0]) + DAY_MS); // there is room for what is still worked out
  const marks = whens.length ? whens : stick.map(([when]) => Date.parse(when));
  const from = Math.min(...marks);
  const to = Math.max(...marks, from + HOUR_MS);
  const levels = [...readings, ...expected, ...stick].map(([, level]) => level);
  const midnights: number[] = [];
  const first = new Date(from);
  for (
    let at = new Date(first.getFullYear(), first.getMonth(), first.getDate() + 1).getTime();
    at < to;
    at += DAY_MS
  )
    midnights.push(at);
  return { from, to, most_m: ROOM * Math.max(full_m, ...levels), midnights };
}

/** The path of a series; empty where there is none. */
export function pathOf(series: Series, span: Span, frame: Frame): string {
  const wide = frame.width - frame.left - frame.right;
  const high = frame.height - frame.top - frame.bottom;
  return series
    .map(([when, level], number) => {
      const x = frame.left + ((Date.parse(when) - span.from) / (span.to - span.from)) * wide;
      const y = frame.top + (1 - level / span.most_m) * high;
      return `${number ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`;
    })
    .join("");
}
