import type { Design } from "../../api/types";
import { placeOfPart } from "../../shared/ground";
import { named } from "../../shared/names";
import { EndDialog, groundAlong, lineAt, PaddockDialog, ThingDialog } from "../draw";
import { endsOf } from "../../shared/way";
import type { Drawing, GroundAt } from "./useDrawing";

interface Props {
  document: Design;
  drawing: Drawing;
  groundAt: GroundAt;
}

/** What is asked of what was just drawn. */
export function DrawingDialogs({ document, drawing, groundAt }: Props) {
  const { asked, leave } = drawing;
  if (asked?.kind === "end") {
    const { way, fromId } = asked;
    const [first, last] = endsOf(way);
    const line = document.lines?.find((one) => one.id === fromId);
    const onLine = line && lineAt(document, first, 1);
    const place = placeOfPart(document, fromId);
    const ground = line
      ? groundAlong(document, line, (onLine?.share ?? 0) * (line.length_m ?? 0))
      : (place?.ground_m ?? 0);
    const [a, b] = [groundAt(first), groundAt(last)];
    return (
      <EndDialog
        fromName={named(line ?? place ?? { id: fromId })}
        lowerM={a === null || b === null ? null : Number((a - b).toFixed(2))}
        onTake={(end, name, lower) => {
          drawing.lay(way, end, name, Number((ground - lower).toFixed(2)));
          leave();
        }}
        onLeave={leave}
      />
    );
  }
  if (asked?.kind === "thing") {
    const line = document.lines?.find((one) => one.id === asked.lineId);
    return (
      <ThingDialog
        lineName={line ? named(line) : null}
        groundM={asked.groundM}
        onTake={(thing, name, ground) => {
          drawing.stand(asked.spot, asked.lineId, thing, name, ground);
          leave();
        }}
        onLeave={leave}
      />
    );
  }
  if (asked?.kind === "paddock")
    return (
      <PaddockDialog
        outlets={drawing.outletNames}
        nearest={drawing.nearestOutlet(asked.corners)}
        onTake={(name, outlet) => {
          drawing.fence(asked.corners, name, outlet);
          leave();
        }}
        onLeave={leave}
      />
    );
  return null;
}
