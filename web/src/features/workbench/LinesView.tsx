import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useMemo } from "react";

import type { Analysis, Catalogue, Design, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { DrawingSwitch } from "../../shared/DrawingSwitch";
import { setPointGround } from "../../shared/ground";
import { Plan } from "../plan";
import { Section } from "../section";
import { Sheet } from "../sheet";
import { routeOf, type ShownRoute } from "../../shared/route";
import { useBench } from "./store";

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
          onSelect={select}
        />
        <Box sx={{ position: "absolute", top: 8, left: 8 }}>
          <DrawingSwitch value={together} onChange={setTogether} />
        </Box>
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
            No open line leads from a tank to an outlet, so there is no section to show.
          </Typography>
        )}
      </Box>
    </Box>
  );
}
