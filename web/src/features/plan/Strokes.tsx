/** Lines on the plan: as wide as their bore, marked by head to spare. */
import { memo } from "react";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import type { LinePipes } from "../../shared/pipe";
import { pathOf, type Spot } from "../../shared/way";
import { SPARE_INK, type Spare } from "./model";

interface Props {
  document: Design;
  ways: ReadonlyMap<string, Spot[]>;
  pipes: LinePipes;
  spares: ReadonlyMap<string, Spare>;
  /** lines through which water runs */
  running: ReadonlySet<string>;
  chosen: ReadonlySet<string>;
  onRoute: ReadonlySet<string>;
}

export function Strokes({ document, ways, pipes, spares, running, chosen, onRoute }: Props) {
  return (
    <>
      {(document.lines ?? []).map((line) => (
        <Stroke
          key={line.id}
          id={line.id}
          d={pathOf(ways.get(line.id) ?? [])}
          width={Math.max(3, (pipes[line.id]?.bore_mm ?? 0) / 6)}
          spare={spares.get(line.id) ?? (running.has(line.id) ? "joins" : "still")}
          halo={chosen.has(line.id) ? 0.3 : onRoute.has(line.id) ? 0.13 : 0}
        />
      ))}
    </>
  );
}

interface StrokeProps {
  id: string;
  d: string;
  width: number;
  spare: Spare;
  halo: number;
}

const Stroke = memo(function Stroke({ id, d, width, spare, halo }: StrokeProps) {
  return (
    <g data-part={id}>
      <path d={d} stroke="transparent" strokeWidth={18} fill="none" />
      {halo > 0 && (
        <path
          d={d}
          fill="none"
          stroke={ink("ink")}
          strokeOpacity={halo}
          strokeWidth={width + 8}
          strokeLinecap="round"
        />
      )}
      <path
        d={d}
        fill="none"
        stroke={ink(SPARE_INK[spare])}
        strokeWidth={width}
        strokeDasharray={spare === "short" ? "9 5" : undefined}
      />
    </g>
  );
});
