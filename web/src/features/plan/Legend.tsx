import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { figure, shownUnit, toShown, type System } from "../../shared/units";
import type { Frame } from "../../shared/fit";
import { scaleBar, SMALL_PLAN, SPARE_INK, type Spare } from "./model";

const GAP = 92;
const FIRST = 176;

interface Props {
  size: Frame;
  perMetre: number;
  /** head under which little is left, and some [m] */
  limits: readonly [number, number];
}

/** Scale, north, and what the colours and dashes of the lines mean. */
export function Legend({ size, perMetre, limits }: Props) {
  const system = usePreferences((state) => state.system);
  const bar = scaleBar(perMetre, (m) => toShown(m, "m", system));
  return (
    <g fontSize={11} fill={ink("ink")} pointerEvents="none">
      <g transform={`translate(14,${size.height - 16})`}>
        <path
          data-testid="scale-line"
          d={`M0 -4V4M0 0H${bar.pixels}M${bar.pixels} -4V4`}
          stroke={ink("ink")}
        />
        <text data-testid="scale-text" x={bar.pixels + 6} y={4}>
          {figure(bar.length, 0)} {shownUnit("m", system)}
        </text>
      </g>
      <g transform={`translate(${size.width - 22},26)`} aria-label="north is up" role="img">
        <path d="M0 12V-10M-4 -4 0 -12 4 -4" stroke={ink("ink")} fill="none" strokeWidth={1.4} />
        <text y={24} textAnchor="middle" fontSize={10}>
          N
        </text>
      </g>
      {size.width >= SMALL_PLAN && (
        <>
          {(["short", "little", "some", "enough"] as const).map((spare, index) => (
            <g key={spare} transform={`translate(${FIRST + index * GAP},${size.height - 16})`}>
              <line
                x2={22}
                stroke={ink(SPARE_INK[spare])}
                strokeWidth={5}
                strokeDasharray={spare === "short" ? "9 5" : undefined}
              />
              <text x={28} y={4}>
                {spareText(spare, limits, system)}
              </text>
            </g>
          ))}
          <text x={FIRST} y={size.height - 30} fill={ink("faint")}>
            pipe colour: spare head at the wanted flow
          </text>
        </>
      )}
    </g>
  );
}

function spareText(spare: Spare, [little, some]: readonly [number, number], system: System): string {
  const metres = (value: number) => `${figure(toShown(value, "m", system), 0)} ${shownUnit("m", system)}`;
  switch (spare) {
    case "short":
      return "short";
    case "little":
      return `under ${metres(little)}`;
    case "some":
      return `to ${metres(some)}`;
    case "enough":
      return `over ${metres(some)}`;
    case "joins":
      return "runs";
    case "still":
      return "still";
  }
}
