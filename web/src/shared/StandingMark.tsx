import type { Standing } from "../api/types";
import { ink, type InkName } from "../app/theme";

export const STANDING_INK: Record<Standing, InkName> = {
  stop: "short",
  fix: "short",
  watch: "little",
  fine: "enough",
  unknown: "faint",
};

const STANDING_WORD: Record<Standing, string> = {
  stop: "will not work",
  fix: "falls short",
  watch: "watch",
  fine: "enough",
  unknown: "not known",
};

const SHAPE: Record<Standing, string> = {
  stop: "M2 2h8v8H2z M4.400 4.400l3.200 3.200 M7.600 4.400l-3.200 3.200",
  fix: "M2 2h8v8H2z",
  watch: "M6 .8 11.200 6 6 11.200 .8 6z",
  fine: "M6 1.500a4.500 4.500 0 1 0 .01 0z",
  unknown: "M2 6h8",
};

/** The same mark on a drawing, about a point of it. */
export function StandingGlyph({
  standing,
  x,
  y,
  size = 12,
  title,
}: {
  standing: Standing;
  x: number;
  y: number;
  size?: number;
  title: string;
}) {
  const colour = ink(STANDING_INK[standing]);
  return (
    <g
      transform={`translate(${x - size / 2} ${y - size / 2}) scale(${size / 12})`}
      role="img"
      aria-label={`${STANDING_WORD[standing]}: ${title}`}
    >
      <title>{title}</title>
      <circle cx={6} cy={6} r={9} fill={ink("paper")} fillOpacity={0.85} />
      <path
        d={SHAPE[standing]}
        fill={standing === "unknown" || standing === "stop" ? "none" : colour}
        stroke={colour}
        strokeWidth={1.6}
      />
    </g>
  );
}

/** How something stands, as shape and colour with a word for those who see neither. */
export function StandingMark({ standing, size = 12 }: { standing: Standing; size?: number }) {
  const colour = ink(STANDING_INK[standing]);
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" role="img" aria-label={STANDING_WORD[standing]}>
      <path
        d={SHAPE[standing]}
        fill={standing === "unknown" || standing === "stop" ? "none" : colour}
        stroke={colour}
        strokeWidth={1.6}
      />
    </svg>
  );
}
