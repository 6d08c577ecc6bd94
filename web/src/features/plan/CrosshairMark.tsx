import { ink } from "../../app/theme";
import type { Scale } from "../../shared/fit";
import { pathOf, type Spot } from "../../shared/way";
import type { Crosshair } from "./useCrosshair";

const ARM = 11;

/** Where the keys are on the plan, and what they have drawn so far. */
export function CrosshairMark({ cross, scale, closed }: { cross: Crosshair; scale: Scale; closed: boolean }) {
  const shown = ([east, north]: Spot): Spot => [scale.x(east), scale.y(north)];
  const [x, y] = shown(cross.at);
  return (
    <g pointerEvents="none" data-testid="crosshair">
      <path
        d={pathOf([...cross.path, cross.at].map(shown)) + (closed && cross.path.length > 1 ? "Z" : "")}
        stroke={ink("deep")}
        strokeWidth={4}
        strokeDasharray="8 6"
        fill="none"
      />
      <circle cx={x} cy={y} r={7} fill="none" stroke={ink("ink")} strokeWidth={2} />
      <path
        d={`M${x - ARM} ${y}H${x + ARM}M${x} ${y - ARM}V${y + ARM}`}
        stroke={ink("ink")}
        strokeWidth={1.4}
      />
    </g>
  );
}
