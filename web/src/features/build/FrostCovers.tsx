import Box from "@mui/material/Box";

import type { Design, Fault, WinterReport } from "../../api/types";
import { BareChoice } from "../../shared/BareChoice";
import { faultAt } from "../../shared/faults";
import { named } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import { Rows } from "../../shared/Rows";
import type { BuildProps } from "./Build";

interface Props extends Pick<BuildProps, "edit" | "onDone"> {
  document: Design;
  told: WinterReport;
  faults: Fault[];
}

const LIDS = [
  { value: "open", text: "open" },
  { value: "lid", text: "with a lid" },
];
const USES = [
  { value: "full", text: "stands full" },
  { value: "empty", text: "runs empty" },
];
const WALLS = [
  { value: "", text: "unknown" },
  { value: "dark", text: "dark" },
  { value: "light", text: "light" },
];

/** What stands between water and frost: lids, foam, and walls that the sun warms. */
export function FrostCovers({ document, told, faults, edit, onDone }: Props) {
  const inFrost = new Set(told.vessels.map(({ vessel }) => vessel));
  const open = new Set(told.lines.filter(({ cover_m: cover }) => cover <= 0).map(({ line }) => line));
  const field = (
    kind: "vessels" | "lines",
    index: number,
    part: { id: string; name?: string | null; lagging_mm?: number },
  ) => (
    <Box sx={{ width: 90 }}>
      <QuantityField
        label=""
        name={`Foam around ${named(part)}`}
        family="mm"
        digits={0}
        value={part.lagging_mm ?? 0}
        fault={faultAt(faults, `/${kind}/${index}/lagging_mm`)}
        onDone={onDone}
        onChange={(value) =>
          edit(`${part.id}.lagging`, (draft) => {
            const own = draft[kind]?.[index];
            if (own) own.lagging_mm = value;
          })
        }
      />
    </Box>
  );
  return (
    <Rows
      label="Lids, foam and walls"
      heads={[{ text: "Part" }, { text: "Foam" }, { text: "Lid, or when not in use" }, { text: "Walls" }]}
    >
      {(document.vessels ?? []).map(
        (vessel, index) =>
          inFrost.has(vessel.id) && (
            <tr key={vessel.id}>
              <th scope="row">{named(vessel)}</th>
              <td>{field("vessels", index, vessel)}</td>
              <td>
                <BareChoice
                  name={`Lid of ${named(vessel)}`}
                  value={vessel.lid ? "lid" : "open"}
                  options={LIDS}
                  onChange={(value) => {
                    edit(`${vessel.id}.lid`, (draft) => {
                      const own = draft.vessels?.[index];
                      if (own) own.lid = value === "lid";
                    });
                    onDone();
                  }}
                />
              </td>
              <td>
                <BareChoice
                  name={`Walls of ${named(vessel)}`}
                  value={vessel.dark == null ? "" : vessel.dark ? "dark" : "light"}
                  options={WALLS}
                  onChange={(value) => {
                    edit(`${vessel.id}.dark`, (draft) => {
                      const own = draft.vessels?.[index];
                      if (own) own.dark = value ? value === "dark" : null;
                    });
                    onDone();
                  }}
                />
              </td>
            </tr>
          ),
      )}
      {(document.lines ?? []).map(
        (line, index) =>
          open.has(line.id) && (
            <tr key={line.id}>
              <th scope="row">
                {named(line)}
                <span className="aside">lies open</span>
              </th>
              <td>{field("lines", index, line)}</td>
              <td>
                <BareChoice
                  name={`${named(line)} when not in use`}
                  value={line.empties ? "empty" : "full"}
                  options={USES}
                  onChange={(value) => {
                    edit(`${line.id}.empties`, (draft) => {
                      const own = draft.lines?.[index];
                      if (own) own.empties = value === "empty";
                    });
                    onDone();
                  }}
                />
              </td>
              <td>–</td>
            </tr>
          ),
      )}
    </Rows>
  );
}
