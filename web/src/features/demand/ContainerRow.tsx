import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Analysis, Design, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { faultAt } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { StandingMark } from "../../shared/StandingMark";
import { Steps } from "../../shared/Steps";
import { quantityText } from "../../shared/units";
import { RowOverSeason } from "./RowOverSeason";

interface Props {
  document: Design;
  row: Analysis["demand"]["rows"][number];
  year: string;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Linked containers fed through a control pot: what they hold and use, and the level over the season. */
export function ContainerRow({ document, row, year, faults, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const index = (document.outlets ?? []).findIndex((one) => one.id === row.outlet);
  const outlet = document.outlets?.[index];
  if (outlet?.kind !== "float_valve") return null;
  const { valve } = outlet;
  const nameOf = (id: string) => document.vessels?.find((one) => one.id === id)?.name ?? id;
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const change = (key: string, recipe: (draft: typeof valve) => void) =>
    edit(`${outlet.id}.${key}`, (draft) => {
      const own = draft.outlets?.[index];
      if (own?.kind === "float_valve") recipe(own.valve);
    });
  const name = row.vessels.map(nameOf).join(", ");
  return (
    <Box role="group" aria-label={name} data-testid={`row-${row.outlet}`} sx={{ mt: 3 }}>
      <strong>{name}</strong>
      <Typography component="p">
        <StandingMark standing={row.gets_lpd < row.demand_lpd ? "fix" : "fine"} size={11} /> {row.containers}{" "}
        containers at one level hold {litres(row.holds_l)}; their plants take{" "}
        {quantityText({ value: row.demand_lpd, unit: "L/d" }, system)}, and the feed brings up to{" "}
        {quantityText({ value: row.gets_lpd, unit: "L/d" }, system)}.
        {row.days_held !== null &&
          ` Without it what they hold lasts ${quantityText({ value: row.days_held, unit: "d" }, system)}.`}
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 4, rowGap: 1, my: 1 }}>
        <Box sx={{ width: 110 }}>
          <QuantityField
            label="Float closes at"
            family="m"
            digits={3}
            value={valve.closes_at_m}
            fault={faultAt(faults, `/outlets/${index}/valve/closes_at_m`)}
            onDone={onDone}
            onChange={(value) => change("closes", (draft) => void (draft.closes_at_m = value))}
          />
        </Box>
        <Steps
          label="Level"
          ask="Lower it in steps over the season"
          family="m"
          digits={3}
          steps={(valve.steps ?? []).map((one) => ({ from: one.from, value: one.closes_at_m }))}
          first={valve.closes_at_m}
          year={year}
          fault={faultAt(faults, `/outlets/${index}/valve`)}
          onDone={onDone}
          onChange={(key, steps) =>
            change(`level.${key}`, (draft) => {
              draft.steps = steps.map(({ from, value }) => ({ from, closes_at_m: value }));
            })
          }
        />
      </Box>
      {row.levels.length > 1 && (
        <Box
          component="table"
          sx={{
            fontSize: 13,
            borderCollapse: "collapse",
            "& th, & td": { textAlign: "right", fontWeight: 400, pr: 5, py: 0.25 },
            "& th:first-of-type": { textAlign: "left", whiteSpace: "nowrap" },
            "& thead": { color: ink("faint") },
          }}
        >
          <thead>
            <tr>
              <th scope="col">From</th>
              <th scope="col">Level in the container</th>
              <th scope="col">They hold</th>
              <th scope="col">Given up by lowering</th>
            </tr>
          </thead>
          <tbody>
            {row.levels.map((level) => (
              <tr key={level.since ?? ""}>
                <th scope="row">{level.since ?? "the start"}</th>
                <td>{quantityText({ value: level.closes_at_m, unit: "m", digits: 3 }, system)}</td>
                <td>{litres(level.holds_l)}</td>
                <td>{level.since === null ? "" : litres(-level.change_l)}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      )}
      <RowOverSeason
        document={document}
        outlet={row.outlet}
        vessels={row.vessels}
        faults={faults}
        edit={edit}
        onDone={onDone}
      />
    </Box>
  );
}
