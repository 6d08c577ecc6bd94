import type { Design } from "../../api/types";
import { named } from "../../shared/names";
import { EndDialog, PaddockDialog, StartDialog, ThingDialog } from "../draw";
import type { Drawing } from "./useDrawing";

interface Props {
  document: Design;
  drawing: Drawing;
}

/** What is asked of what was just drawn. */
export function DrawingDialogs({ document, drawing }: Props) {
  const { asked, leave } = drawing;
  if (asked?.kind === "start") {
    const { way, groundM } = asked;
    return (
      <StartDialog
        groundM={groundM}
        onTake={(thing, name, ground) => void drawing.startAt(way, thing, name, ground)}
        onLeave={leave}
      />
    );
  }
  if (asked?.kind === "end") {
    const { way, from, lowerM, begin } = asked;
    return (
      <EndDialog
        fromName={from}
        lowerM={lowerM}
        onTake={(end, name, lower) => {
          drawing.lay(way, end, name, lower, begin);
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
        onTake={(name, outlet) => {
          drawing.fence(asked.corners, name, outlet);
          leave();
        }}
        onLeave={leave}
      />
    );
  return null;
}
