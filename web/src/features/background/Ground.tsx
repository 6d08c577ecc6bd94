/** What lies under the plan: shaded hills with contours, a pinned picture, and the ground that a source can serve. */
import { memo, useMemo } from "react";

import type { Picture, Reach, Relief } from "../../api/types";
import { ink } from "../../app/theme";
import { overlaps, type Area } from "../../shared/area";
import type { Frame, Scale } from "../../shared/fit";
import { usePreferences } from "../../shared/preferences";
import { figure, shownUnit, toShown } from "../../shared/units";
import { pathOf, type Spot } from "../../shared/way";
import { contoursOf, ringsAbove, shadedPicture } from "./relief";

interface Props {
  relief: Relief | null;
  picture: (Picture & { address: string }) | null;
  reach: Reach | null;
  scale: Scale;
  frame: Frame;
  /** where the plan has marks and labels: no height is written there */
  covered: readonly Area[];
}

export const GroundUnder = memo(function GroundUnder({
  relief,
  picture,
  reach,
  scale,
  frame,
  covered,
}: Props) {
  const shown = usePreferences((state) => state.layers);
  return (
    <g pointerEvents="none" data-testid="ground-under">
      {picture && shown.picture && <PinnedPicture picture={picture} scale={scale} />}
      {relief && shown.relief && (
        <Hills relief={relief} scale={scale} faint={Boolean(picture && shown.picture)} />
      )}
      {relief && reach && <Served relief={relief} reach={reach} scale={scale} />}
      {relief && shown.relief && <Contours relief={relief} scale={scale} frame={frame} covered={covered} />}
    </g>
  );
});

function PinnedPicture({ picture, scale }: { picture: Picture & { address: string }; scale: Scale }) {
  const { a, b, c, d, e, f } = picture;
  const k = scale.perMetre;
  const matrix = [a * k, -d * k, b * k, -e * k, scale.x(c), scale.y(f)];
  return (
    <image
      href={picture.address}
      transform={`matrix(${matrix.map((one) => one.toFixed(5)).join(" ")})`}
      preserveAspectRatio="none"
      data-testid="pinned-picture"
    />
  );
}

function Hills({ relief, scale, faint }: { relief: Relief; scale: Scale; faint: boolean }) {
  const picture = useMemo(() => shadedPicture(relief), [relief]);
  const [columns, rows] = [relief.heights_m[0]?.length ?? 0, relief.heights_m.length];
  return (
    <image
      href={picture}
      x={scale.x(relief.east_m - relief.step_m / 2)}
      y={scale.y(relief.north_m + (rows - 0.5) * relief.step_m)}
      width={columns * relief.step_m * scale.perMetre}
      height={rows * relief.step_m * scale.perMetre}
      preserveAspectRatio="none"
      opacity={faint ? 0.3 : 0.75}
      data-testid="hills"
    />
  );
}

function Contours({
  relief,
  scale,
  frame,
  covered,
}: {
  relief: Relief;
  scale: Scale;
  frame: Frame;
  covered: readonly Area[];
}) {
  const system = usePreferences((state) => state.system);
  const lines = useMemo(() => contoursOf(relief), [relief]);
  const onScreen = (ring: readonly Spot[]) => ring.map(([x, y]): Spot => [scale.x(x), scale.y(y)]);
  return (
    <g fill="none" stroke={ink("groundEdge")} strokeOpacity={0.55} data-testid="contours">
      {lines.map(({ height, rings }, index) => (
        <path
          key={height}
          d={rings.map((ring) => pathOf(onScreen(ring))).join("")}
          strokeWidth={index % 5 ? 0.8 : 1.4}
        />
      ))}
      {lines.map(({ height, label }) => {
        if (!label) return null;
        const [x, y] = [scale.x(label[0]), scale.y(label[1])];
        if (x < 20 || y < 60 || x > frame.width - 60 || y > frame.height - 60) return null;
        if (covered.some((area) => overlaps(area, { x: x - 20, y: y - 11, width: 40, height: 14 })))
          return null;
        return (
          <text
            key={height}
            x={x}
            y={y}
            fontSize={10}
            textAnchor="middle"
            fill={ink("faint")}
            stroke={ink("land")}
            strokeOpacity={1}
            strokeWidth={3}
            paintOrder="stroke"
          >
            {figure(toShown(height, "m", system), 0)} {shownUnit("m", system)}
          </text>
        );
      })}
    </g>
  );
}

function Served({ relief, reach, scale }: { relief: Relief; reach: Reach; scale: Scale }) {
  const rings = useMemo(() => ringsAbove(relief, reach.spare_m), [relief, reach]);
  const d = rings.map((ring) => `${pathOf(ring.map(([x, y]): Spot => [scale.x(x), scale.y(y)]))}Z`).join("");
  return (
    <path
      d={d}
      fill={ink("water")}
      fillOpacity={0.22}
      fillRule="evenodd"
      stroke={ink("deep")}
      strokeDasharray="2 4"
      data-testid="served"
    />
  );
}
