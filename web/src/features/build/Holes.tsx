import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design, PartsNeeded } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { faultAt } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { measuredStem } from "./stems";
import type { BuildProps } from "./Build";
import { Places } from "../../shared/Places";
import { TABLE } from "../../shared/rowTable";

/** Every hole that is drilled: the bit by the measured stem, how high it sits, and what is wrong with it. */
export function Holes({
  document,
  needed,
  faults,
  edit,
  onDone,
  onShow,
}: BuildProps & { needed: PartsNeeded }) {
  const system = usePreferences((state) => state.system);
  const mm = (value: number) => quantityText({ value, unit: "mm", digits: 1 }, system);
  if (!needed.holes.length)
    return <Typography sx={{ p: 4 }}>Nothing of this plan passes the wall of a vessel.</Typography>;
  return (
    <Box component="section" aria-label="Holes" sx={{ p: 4 }}>
      <Typography variant="h1">Holes</Typography>
      <Typography sx={{ my: 2, maxWidth: 720 }} data-testid="bits">
        {needed.bits.length
          ? `Bits to buy: ${needed.bits.map((bit) => `${mm(bit.bit_mm)} for ${bit.holes} ${bit.holes === 1 ? "hole" : "holes"}`).join(", ")}.`
          : "No stem is measured yet, so no bit is told."}{" "}
        What is measured on one piece goes for all of its kind.
      </Typography>
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Rows of holes">
        <Box component="table" sx={TABLE}>
          <thead>
            <tr>
              <th scope="col">Through the wall of</th>
              <th scope="col">What passes</th>
              <th scope="col" className="figure">
                Over the floor
              </th>
              <th scope="col">Stem across</th>
              <th scope="col">Thread length</th>
              <th scope="col">Wall</th>
              <th scope="col" className="figure">
                Bit
              </th>
            </tr>
          </thead>
          <tbody>
            {needed.holes.map((hole) => {
              const index = (document.stems ?? []).findIndex((one) => one.product === hole.product_id);
              const vessel = document.vessels?.findIndex((one) => one.id === hole.vessel) ?? -1;
              const measure = (key: "across_mm" | "long_mm", value: number | null) =>
                edit(`stem.${hole.product_id}.${key}`, (draft) =>
                  measuredStem(draft, hole.product_id, key, value),
                );
              const thick = (value: number | null) =>
                edit(`${hole.vessel}.wall_mm`, (draft) => wallOf(draft, vessel, value));
              return (
                <tr key={hole.id} data-testid={`hole-${hole.id}`}>
                  <th scope="row" className="part">
                    <Places document={document} ids={[hole.vessel]} onShow={onShow} />
                    {hole.troubles.map((one, number) => (
                      <Box key={number} sx={{ color: ink(hole.across_mm === null ? "faint" : "short") }}>
                        {saidText(one, system)}
                      </Box>
                    ))}
                  </th>
                  <td>
                    {hole.what}
                    {hole.thread_mm !== null && (
                      <span className="aside">its thread is {mm(hole.thread_mm)} by the standard</span>
                    )}
                  </td>
                  <td className="figure">
                    {hole.at_m === null
                      ? "not on the plan"
                      : quantityText({ value: hole.at_m, unit: "m", digits: 2 }, system)}
                  </td>
                  <td style={{ minWidth: 80 }}>
                    <QuantityField
                      label=""
                      name={`Stem of ${hole.what} in ${hole.vessel}`}
                      family="mm"
                      value={hole.across_mm}
                      fault={faultAt(faults, `/stems/${index}/across_mm`)}
                      onDone={onDone}
                      onChange={(value) => measure("across_mm", value)}
                      onClear={() => measure("across_mm", null)}
                    />
                  </td>
                  <td style={{ minWidth: 80 }}>
                    {hole.across_mm !== null && (
                      <QuantityField
                        label=""
                        name={`Thread length of ${hole.what} in ${hole.vessel}`}
                        family="mm"
                        value={hole.long_mm}
                        fault={faultAt(faults, `/stems/${index}/long_mm`)}
                        onDone={onDone}
                        onChange={(value) => measure("long_mm", value)}
                        onClear={() => measure("long_mm", null)}
                      />
                    )}
                  </td>
                  <td style={{ minWidth: 80 }}>
                    <QuantityField
                      label=""
                      name={`Wall of ${hole.vessel} at ${hole.what}`}
                      family="mm"
                      value={hole.wall_mm}
                      fault={faultAt(faults, `/vessels/${vessel}/wall_mm`)}
                      onDone={onDone}
                      onChange={(value) => thick(value)}
                      onClear={() => thick(null)}
                    />
                  </td>
                  <td className="figure">
                    {hole.bit_mm === null ? "–" : <strong>{mm(hole.bit_mm)}</strong>}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
      <ul style={{ maxWidth: 720, paddingLeft: 20 }}>
        {needed.hole_practice.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <Caution>
        A hole saw can catch and wrench the drill: hold it with both hands, wear eye protection. Do not drill
        a tank that held chemicals or fuel.
      </Caution>
    </Box>
  );
}

function wallOf(draft: Design, index: number, value: number | null): void {
  const own = draft.vessels?.[index];
  if (!own) return;
  if (value === null) delete own.wall_mm;
  else own.wall_mm = value;
}
