/** Paddocks on the plan, how far their grass is from the water, and how far the hose reaches round each tap. */
import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import type { Scale } from "../../shared/fit";
import { placeOfPart } from "../../shared/ground";
import { usePreferences } from "../../shared/preferences";
import { alongWay, pathOf, wayOf, type Spot } from "../../shared/way";
import { fencesOf } from "./fenceNames";

interface Props {
  document: Design;
  scale: Scale;
  chosen: ReadonlySet<string>;
  /** how far from water stock are kept on the day shown [m] */
  limitM: number | null;
}

/** Fences with the names of what they hold; where it is asked for, what lies too far from its water is hatched. */
export function Fences({ document, scale, chosen, limitM }: Props) {
  const shown = usePreferences((state) => state.layers);
  if (!shown.paddocks) return null;
  return (
    <g data-testid="fences">
      <defs>
        <pattern
          id="too-far"
          width={8}
          height={8}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V8" stroke={ink("short")} strokeWidth={2} strokeOpacity={0.65} />
        </pattern>
      </defs>
      {fencesOf(document, scale).map(({ paddock, corners, name }) => {
        const d = `${pathOf(corners)}Z`;
        const water = placeOfPart(document, paddock.outlet ?? "");
        const radius = (limitM ?? 0) * scale.perMetre;
        return (
          <g key={paddock.id} data-part={paddock.id} data-testid={`fence-${paddock.id}`}>
            {shown.walk && water && limitM !== null && (
              <>
                <clipPath id={`within-${paddock.id}`}>
                  <path d={d} />
                </clipPath>
                <g clipPath={`url(#within-${paddock.id})`}>
                  <path
                    d={`${d}${circle(scale.x(water.east_m), scale.y(water.north_m), radius)}`}
                    fillRule="evenodd"
                    fill="url(#too-far)"
                    data-testid={`far-${paddock.id}`}
                  />
                  {[1, 0.5].map((share) => (
                    <circle
                      key={share}
                      cx={scale.x(water.east_m)}
                      cy={scale.y(water.north_m)}
                      r={radius * share}
                      fill={ink("water")}
                      fillOpacity={0.14}
                    />
                  ))}
                </g>
              </>
            )}
            <path
              d={d}
              fill="none"
              pointerEvents="stroke"
              stroke={ink("groundEdge")}
              strokeWidth={chosen.has(paddock.id) ? 3.5 : 1.6}
            />
            {name && (
              <text
                x={name.x}
                y={name.y}
                fontSize={12}
                textAnchor="middle"
                fill={ink("faint")}
                stroke={ink("land")}
                strokeWidth={3}
                paintOrder="stroke"
              >
                {name.text}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

const circle = (x: number, y: number, r: number) =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;

/** Circles of the hose round every tap: open ends, and tap points along lines. */
export function HoseCircles({ document, scale }: Pick<Props, "document" | "scale">) {
  const shown = usePreferences((state) => state.layers.hose);
  const reach = document.site.hose_m;
  if (!shown || reach == null) return null;
  return (
    <g
      pointerEvents="none"
      fill="none"
      stroke={ink("deep")}
      strokeDasharray="1 5"
      strokeLinecap="round"
      strokeWidth={2}
    >
      {tapsOf(document).map(([x, y], index) => (
        <circle
          key={index}
          cx={scale.x(x)}
          cy={scale.y(y)}
          r={reach * scale.perMetre}
          data-testid="hose-circle"
        />
      ))}
    </g>
  );
}

/** Where a hose can be joined: open ends, and tap points along lines. */
export function tapsOf(document: Design): Spot[] {
  const ends = (document.outlets ?? []).flatMap((outlet) => {
    const place = outlet.kind === "open_end" ? placeOfPart(document, outlet.id) : undefined;
    return place ? [[place.east_m, place.north_m] as const] : [];
  });
  const along = (document.lines ?? []).flatMap((line) =>
    (line.inline ?? []).flatMap((part) =>
      part.kind === "tap_point" && line.length_m
        ? [alongWay(wayOf(document, line), part.at_m / line.length_m)]
        : [],
    ),
  );
  return [...ends, ...along];
}
