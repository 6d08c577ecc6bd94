import type { PointerEvent } from "react";

import type { Design, Line } from "../../api/types";
import { MARK_COUNTS, type Area } from "../../shared/area";
import type { Scale } from "../../shared/fit";
import { InlineGlyph, type InlinePart } from "../../shared/InlineGlyph";
import { named } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { alongWay, shareAlong, wayLength, wayOf, type Spot } from "../../shared/way";

interface Props {
  document: Design;
  scale: Scale;
  onInline: (line: string, index: number, atM: number) => void;
  onDone: () => void;
}

/** So near to the ends of its line [px] a part is not drawn: what stands there hides it. */
const CLEAR_OF_ENDS_PX = 26;
const SIDE_PX = 22;

interface Sited {
  line: Line;
  index: number;
  part: InlinePart;
  way: [number, number][];
  lengthM: number;
  at: Spot;
}

/** The parts in lines that are drawn at a scale: those clear of what stands at the ends. */
function sited(document: Design, scale: Scale): Sited[] {
  return (document.lines ?? []).flatMap((line) => {
    const inline = line.inline ?? [];
    if (!inline.length) return [];
    const metres = wayOf(document, line);
    const lengthM = line.length_m ?? wayLength(metres);
    const way = metres.map(([east, north]): [number, number] => [scale.x(east), scale.y(north)]);
    const long = wayLength(way);
    return inline.flatMap((part, index) => {
      const share = lengthM > 0 ? Math.min(part.at_m / lengthM, 1) : 0;
      const clear = Math.min(share, 1 - share) * long > CLEAR_OF_ENDS_PX;
      return clear ? [{ line, index, part, way, lengthM, at: alongWay(way, share) }] : [];
    });
  });
}

/** What they cover, so that labels keep off them. */
export const inlineAreas = (document: Design, scale: Scale): Area[] =>
  sited(document, scale).map(({ at: [x, y] }) => ({
    x: x - SIDE_PX / 2,
    y: y - SIDE_PX / 2,
    width: SIDE_PX,
    height: SIDE_PX,
    weight: MARK_COUNTS,
  }));

/** Vents, drains, stopcocks and the like where they sit on the plan. */
export function InlineMarks({ document, scale, onInline, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  return sited(document, scale).map(({ line, index, part, way, lengthM, at: [x, y] }) => (
    <InlineGlyph
      key={`${line.id}-${index}`}
      part={part}
      x={x}
      y={y}
      place={`at ${quantityText({ value: part.at_m, unit: "m", digits: 0 }, system)} of ${named(line)}, on the plan`}
      lengthM={lengthM}
      along={(event) => lengthM * shareAlong(way, pointerOf(event))}
      onMove={(atM) => onInline(line.id, index, atM)}
      onDone={onDone}
      focusable
    />
  ));
}

function pointerOf(event: PointerEvent<SVGGElement>): [number, number] {
  const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
  return [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
}
