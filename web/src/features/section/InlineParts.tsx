import type { PointerEvent } from "react";

import type { Design } from "../../api/types";
import { InlineGlyph } from "../../shared/InlineGlyph";
import { named } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { legsOf, type ShownRoute } from "../../shared/route";
import { sectionAt } from "./model";
import { quantityText } from "../../shared/units";

interface Props {
  route: ShownRoute;
  document: Design;
  x: (atM: number) => number;
  y: (heightM: number) => number;
  inView: (atM: number) => boolean;
  /** metres along the route under the pointer */
  metresAt: (event: PointerEvent<SVGElement>) => number;
  onInline: (line: string, index: number, atM: number) => void;
  onDone: () => void;
}

/** Vents, drains, stopcocks and the like where they sit in the pipe. */
export function InlineParts({ route, document, x, y, inView, metresAt, onInline, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  return legsOf(route, document).flatMap((leg) => {
    const line = document.lines?.find((one) => one.id === leg.line);
    const lengthM = leg.endM - leg.startM;
    const onRoute = (atM: number) => (leg.forward ? leg.startM + atM : leg.endM - atM);
    return (line?.inline ?? []).flatMap((part, index) => {
      const at = onRoute(part.at_m);
      const point = sectionAt(route.section, Math.min(at, route.length_m));
      if (!line || !point || !inView(at)) return [];
      return [
        <InlineGlyph
          key={`${line.id}-${index}`}
          part={part}
          x={x(at)}
          y={y(point.pipe_m)}
          place={`at ${quantityText({ value: part.at_m, unit: "m", digits: 0 }, system)} of ${named(line)}`}
          lengthM={lengthM}
          along={(event) => {
            const metres = metresAt(event);
            return leg.forward ? metres - leg.startM : leg.endM - metres;
          }}
          onMove={(atM) => onInline(line.id, index, atM)}
          onDone={onDone}
          focusable={false} // the profile itself takes the arrow keys
        />,
      ];
    });
  });
}
