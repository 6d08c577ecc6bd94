import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useMemo, useState } from "react";

import type { Analysis, Catalogue, Design, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { DrawingSwitch } from "../../shared/DrawingSwitch";
import { setPointGround } from "../../shared/ground";
import type { Spot } from "../../shared/way";
import { EndDialog, layLine, movePlace, nudge, placeAt, setCorners, takeLine, type End } from "../draw";
import { Plan } from "../plan";
import { Section } from "../section";
import { Sheet } from "../sheet";
import { routeOf, type ShownRoute } from "../../shared/route";
import { useBench } from "./store";

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

interface Props {
  document: Design;
  analysis: Analysis;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  routes: ShownRoute[];
}

/** Plan above with its figures beside it, long section below, one cursor in both. */
export function LinesView({ document, analysis, catalogue, faults, routes }: Props) {
  const { selected, select, cursorM, setCursor, edit, endStep, together, setTogether } = useBench();
  const route = routeOf(routes, selected, document);
  const running = useMemo(
    () =>
      new Set(
        Object.entries(analysis.solution.lines).flatMap(([id, line]) =>
          line.state === "running" ? [id] : [],
        ),
      ),
    [analysis],
  );
  const [drawing, setDrawing] = useState(false);
  const [drawn, setDrawn] = useState<Spot[] | null>(null);
  const [told, setTold] = useState("");
  const begin = drawn?.[0] && placeAt(document, drawn[0]);
  const chosenLine = document.lines?.some((line) => line.id === selected);
  const lay = (way: Spot[], end: End, name: string, groundM: number) => {
    let made: string | null = null;
    edit("line.new", (draft) => void (made = layLine(draft, { way, end, name, groundM })));
    endStep();
    select(made);
  };
  const finish = (way: Spot[]) => {
    const [first, last] = [way[0], way.at(-1)];
    const begins = Boolean(first && placeAt(document, first));
    setDrawing(false);
    setTold(begins ? "" : "A line begins at a tank or a junction: begin it on one.");
    if (begins && last && placeAt(document, last)) lay(way, "junction", "", 0);
    else if (begins) setDrawn(way);
  };
  const remove = () => {
    edit("line.gone", (draft) => takeLine(draft, selected ?? ""));
    endStep();
    select(null);
  };
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        event.target.closest("input, select, textarea, [role=dialog], [role=slider]");
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const step = event.shiftKey ? 10 : 1;
      const arrow = ARROWS[event.key];
      if (event.key.toLowerCase() === "l") setDrawing(true);
      else if (event.key === "Escape") setDrawing(false);
      else if (event.key === "Delete" && chosenLine) remove();
      else if (arrow && selected && !drawing)
        edit(`${selected}.nudged`, (draft) => nudge(draft, selected, [arrow[0] * step, arrow[1] * step]));
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  });
  const nameOf = (id: string | null) =>
    [...(document.vessels ?? []), ...(document.outlets ?? [])].find((part) => part.id === id)?.name ??
    id ??
    "";
  return (
    <Box
      sx={{
        height: "100%",
        display: "grid",
        gridTemplateColumns: { xs: "1fr", md: "minmax(0, 1fr) 300px" },
        gridTemplateRows: { xs: "330px auto 300px", md: "minmax(0, 1fr) minmax(0, 1fr)" },
      }}
    >
      <Box sx={{ position: "relative", minHeight: 0 }}>
        <Plan
          document={document}
          routes={routes}
          running={running}
          catalogue={catalogue}
          selected={selected}
          route={route}
          cursorM={cursorM}
          drawing={drawing}
          onSelect={select}
          onDrawn={finish}
          onMove={(place, spot) => edit(`${place}.moved`, (draft) => movePlace(draft, place, spot))}
          onCorners={(line, corners) => edit(`${line}.way`, (draft) => setCorners(draft, line, corners))}
          onDone={endStep}
        />
        <Box sx={{ position: "absolute", top: 8, left: 8, display: "flex", gap: 2, flexWrap: "wrap" }}>
          <DrawingSwitch value={together} onChange={setTogether} />
          <Button
            variant={drawing ? "contained" : "outlined"}
            aria-pressed={drawing}
            sx={drawing ? {} : { bgcolor: ink("paper") }}
            onClick={() => setDrawing(!drawing)}
          >
            Draw a line (L)
          </Button>
        </Box>
        {(drawing || told) && (
          <Typography
            role="status"
            sx={{
              position: "absolute",
              left: 8,
              top: 46,
              pointerEvents: "none",
              bgcolor: ink("paper"),
              px: 2,
              py: 1,
              maxWidth: 420,
            }}
          >
            {drawing
              ? "Click where it begins, every corner, and twice where it ends. Backspace takes a corner back, Escape leaves it."
              : told}
          </Typography>
        )}
        {begin && (
          <EndDialog
            fromName={begin.name ?? begin.id}
            onTake={(end, name, lower) => {
              lay(drawn, end, name, begin.ground_m - lower);
              setDrawn(null);
            }}
            onLeave={() => setDrawn(null)}
          />
        )}
      </Box>
      <Box sx={{ borderLeft: `1px solid ${ink("rule")}`, bgcolor: ink("sheet"), minHeight: 0 }}>
        <Sheet
          document={document}
          analysis={analysis}
          catalogue={catalogue}
          faults={faults}
          selected={selected}
          onSelect={select}
          edit={edit}
          onDone={endStep}
        />
      </Box>
      <Box sx={{ gridColumn: "1 / -1", borderTop: `1px solid ${ink("rule")}`, minHeight: 0 }}>
        {route ? (
          <Section
            route={route}
            document={document}
            catalogue={catalogue}
            ways={routes.flatMap(({ key, vessel, end }) =>
              vessel ? [{ key, text: `${nameOf(vessel)} → ${nameOf(end)}` }] : [],
            )}
            cursorM={cursorM}
            onWay={select}
            onCursor={setCursor}
            onGround={(line, index, groundM) =>
              edit(`${line}.point${index}`, (draft) => setPointGround(draft, line, index, groundM))
            }
            onDone={endStep}
          />
        ) : (
          <Typography sx={{ p: 4 }}>
            {document.lines?.length
              ? "No open line leads from a tank to an outlet, so there is no section to show."
              : "Nothing is laid yet. Press L or “Draw a line”, click the place where the water starts, every corner, and twice where it shall end."}
          </Typography>
        )}
      </Box>
    </Box>
  );
}
