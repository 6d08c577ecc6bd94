import type { PointerEvent } from "react";

import type { Design } from "../../api/types";
import type { Scale } from "../../shared/fit";
import { InlineGlyph } from "../../shared/InlineGlyph";
import { named } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { alongWay, shareAlong, wayLength, wayOf } from "../../shared/way";

interface Props {
  document: Design;
  scale: Scale;
  onInline: (line: string, index: number, atM: number) => void;
  onDone: () => void;
}

/** Vents, drains, stopcocks and the like where they sit on the plan. */
export function InlineMarks({ document, scale, onInline, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  return (document.lines ?? []).flatMap((line) => {
    const inline = line.inline ?? [];
    if (!inline.length) return [];
    const way = wayOf(document, line);
    const lengthM = line.length_m ?? wayLength(way);
    const onScreen = way.map(([east, north]): [number, number] => [scale.x(east), scale.y(north)]);
    return inline.map((part, index) => {
      const [x, y] = alongWay(onScreen, lengthM > 0 ? part.at_m / lengthM : 0);
      return (
        <InlineGlyph
          key={`${line.id}-${index}`}
          part={part}
          x={x}
          y={y}
          place={`at ${quantityText({ value: part.at_m, unit: "m", digits: 0 }, system)} of ${named(line)}, on the plan`}
          lengthM={lengthM}
          along={(event) => lengthM * shareAlong(onScreen, pointerOf(event))}
          onMove={(atM) => onInline(line.id, index, atM)}
          onDone={onDone}
        />
      );
    });
  });
}

function pointerOf(event: PointerEvent<SVGGElement>): [number, number] {
  const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
  return [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
}
