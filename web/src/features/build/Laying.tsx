import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { drawLaying } from "../../api/client";
import type { Design, Line, PartsNeeded } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { Crossings } from "./Crossings";
import { Drawing } from "./Drawing";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import type { BuildProps } from "./Build";
import { TABLE } from "../../shared/rowTable";

/** What to do at which distance along a line: by spaces between posts, and by paces. */
export function Laying({ document, needed, faults, edit, onDone }: BuildProps & { needed: PartsNeeded }) {
  const system = usePreferences((state) => state.system);
  const drawn = useKept(
    useSettled(["laying", system], document, document, (asked: Design, signal) =>
      drawLaying(asked, system, signal),
    ),
  );
  const [wanted, setWanted] = useState("");
  const sheet = needed.laying.find((one) => one.line === wanted) ?? needed.laying[0];
  const metres = (value: number) => quantityText({ value, unit: "m", digits: 1 }, system);
  if (!sheet) return <Typography sx={{ p: 4 }}>The plan has no line yet.</Typography>;
  const index = document.lines?.findIndex((one) => one.id === sheet.line) ?? -1;
  const line = document.lines?.[index];
  const changeLine = (recipe: (own: Line) => void) =>
    edit(`${sheet.line}.tap_every_m`, (draft) => {
      const own = draft.lines?.[index];
      if (own) recipe(own);
    });
  return (
    <Box component="section" aria-label="Laying" sx={{ p: 4, maxWidth: 760 }}>
      <Typography variant="h1">Laying {nameOfPart(document, sheet.line)}</Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, my: 3 }}>
        <Box sx={{ width: 230 }}>
          <Choice
            label="Line"
            value={sheet.line}
            options={needed.laying.map((one) => ({ value: one.line, text: nameOfPart(document, one.line) }))}
            onChange={setWanted}
          />
        </Box>
        <Box sx={{ width: 230 }}>
          <QuantityField
            label="Between fence posts"
            family="m"
            value={document.site.post_m ?? null}
            hint={document.site.post_m ? undefined : "gives spaces to count"}
            fault={faultAt(faults, "/site/post_m")}
            onDone={onDone}
            onChange={(post_m) => edit("site.post_m", (draft) => void (draft.site.post_m = post_m))}
            onClear={() => edit("site.post_m", (draft) => void delete draft.site.post_m)}
          />
        </Box>
        <Box sx={{ width: 230 }}>
          <QuantityField
            key={sheet.line}
            label="A tap every"
            family="m"
            value={line?.tap_every_m ?? null}
            hint={line?.tap_every_m ? undefined : "and at each join and the far end"}
            fault={faultAt(faults, `/lines/${index}/tap_every_m`)}
            onDone={onDone}
            onChange={(every) => changeLine((own) => void (own.tap_every_m = every))}
            onClear={() => changeLine((own) => void delete own.tap_every_m)}
          />
        </Box>
      </Box>
      <Crossings document={document} index={index} faults={faults} edit={edit} onDone={onDone} />
      {drawn?.drawings[sheet.line] && (
        <Drawing svg={drawn.drawings[sheet.line] ?? ""} least={520} most={700} />
      )}
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Laying sheet">
        <Box component="table" sx={TABLE}>
          <thead>
            <tr>
              <th scope="col" className="figure">
                From its start
              </th>
              <th scope="col">Spaces between posts</th>
              <th scope="col" className="figure">
                Paces
              </th>
              <th scope="col">What to do there</th>
            </tr>
          </thead>
          <tbody>
            {sheet.stops.map((stop, index) => (
              <tr key={index}>
                <td className="figure">{metres(stop.at_m)}</td>
                <td>
                  {stop.spaces === null
                    ? "–"
                    : `${stop.spaces}${stop.beyond_m ? ` and ${metres(stop.beyond_m)}` : ""}`}
                </td>
                <td className="figure">{Math.round(stop.paces)}</td>
                <td>{saidText(stop.told, system)}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      <Typography sx={{ mt: 3 }}>
        Count the spaces, not the posts: six posts make five spaces.{" "}
        {sheet.counted_pace
          ? "Paces are as long as you counted them."
          : "Your paces are not counted yet, so a usual pace is taken: count yours under Ground."}{" "}
        Lay it on the surface first, run water through it, mark its way, and bury it when it is tight.
      </Typography>
      <Caution>
        Before digging, have the utility locating service mark cables and pipes. Nobody stands in a trench
        that could fall in; follow local rules on its depth.
      </Caution>
    </Box>
  );
}
