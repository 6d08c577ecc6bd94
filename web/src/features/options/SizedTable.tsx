import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Typography from "@mui/material/Typography";

import type { Design, SizedPlan } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { TABLE } from "../../shared/rowTable";
import { saidText } from "../../shared/saidText";
import { figure } from "../../shared/units";
import { keepAsItIs } from "./sizing";

interface Props {
  plan: SizedPlan;
  /** whether this is the answer, not the best so far */
  isFinal: boolean;
  document: Design;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onShow: (id: string) => void;
  onUse: (plan: SizedPlan) => void;
  onTake: (plan: SizedPlan) => void;
}

/** A sized plan part by part, with why each is not cheaper. */
export function SizedTable({ plan, isFinal, document, edit, onShow, onUse, onTake }: Props) {
  const system = usePreferences((state) => state.system);
  const kept = document.sizing?.keep ?? [];
  return (
    <Box data-testid="sized">
      <Typography component="p" data-testid="sized-told" sx={{ my: 2 }}>
        <strong>{priceText(plan.cost, plan.currency)}</strong>
        {plan.is_change && " for what is changed"}
        {!plan.is_change &&
          plan.cost_now !== null &&
          ` instead of ${priceText(plan.cost_now, plan.currency)} as the plan is`}
        {!isFinal
          ? ", the best so far."
          : plan.proven_gap === 0
            ? ": proven to be the cheapest with these flows."
            : `: the best found. None can be cheaper by more than ${figure(100 * plan.proven_gap, 0)} %.`}
      </Typography>
      {isFinal && (
        <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", mb: 2 }}>
          <Button variant="contained" onClick={() => onTake(plan)}>
            Keep as an option
          </Button>
          <Button variant="outlined" onClick={() => onUse(plan)}>
            Use in this plan
          </Button>
        </Box>
      )}
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Sized plan">
        <Box component="table" sx={TABLE}>
          <thead>
            <tr>
              <th scope="col">Part</th>
              <th scope="col">Now</th>
              <th scope="col">Cheapest</th>
              <th scope="col" className="figure">
                Costs
              </th>
              <th scope="col">Why not cheaper</th>
              <th scope="col">Leave as it is</th>
            </tr>
          </thead>
          <tbody>
            {plan.rows.map((row) => (
              <tr
                key={`${row.kind} ${row.part} ${saidText(row.then, system)}`}
                data-testid={`sized-${row.kind === "filter" || row.kind === "added" ? `${row.kind}-` : ""}${row.part}`}
              >
                <th scope="row">
                  <Button
                    size="small"
                    onClick={() => onShow(row.part)}
                    sx={{
                      p: 0,
                      minWidth: 0,
                      textAlign: "left",
                      color: "inherit",
                      fontSize: "inherit",
                      lineHeight: 1.4,
                    }}
                  >
                    {row.name}
                  </Button>
                </th>
                <td>{saidText(row.now, system)}</td>
                <td style={row.changed ? { fontWeight: 700 } : { color: ink("faint") }}>
                  {row.changed ? saidText(row.then, system) : "the same"}
                </td>
                <td className="figure">{priceText(row.price, plan.currency)}</td>
                <td>{row.why ? saidText(row.why, system) : isFinal ? "there is no cheaper one" : "…"}</td>
                <td>
                  {row.kind !== "filter" && row.kind !== "added" && (
                    <Checkbox
                      size="small"
                      checked={kept.includes(row.part)}
                      slotProps={{ input: { "aria-label": `Leave ${row.name} as it is` } }}
                      onChange={(_, keep) => edit("keep", (draft) => keepAsItIs(draft, row.part, keep))}
                      sx={{ p: 0 }}
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
