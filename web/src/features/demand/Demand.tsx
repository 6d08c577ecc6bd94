import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Analysis, Catalogue, Design, DesignEdit, Fault, Finding, Rest } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { DayField } from "../../shared/DayField";
import { useLookEveryH } from "../../shared/defaults";
import { download } from "../../shared/download";
import { useEdits } from "../../shared/edits";
import { faultAt } from "../../shared/faults";
import { named } from "../../shared/names";
import { Overview, type Column } from "../../shared/Overview";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { shownCase } from "../../shared/shownCase";
import { quantityText } from "../../shared/units";
import { useOpened } from "../../shared/useOpened";
import { DayCurve } from "./DayCurve";
import { demandRows } from "./rows";
import { SeasonStrip } from "./SeasonStrip";
import { demandTable } from "./table";

export interface DemandProps {
  document: Design;
  analysis: Analysis;
  /** how the herds fare at their troughs, once that is known */
  rest: Rest | null;
  /** those about demand */
  findings: Finding[];
  catalogue: Catalogue | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const columns = (animals: boolean): Column[] => [
  { text: "Number", number: true },
  { text: "Each", number: true, wide: true },
  { text: "A day", number: true },
  { text: animals ? "Drinks at" : "Watered at", wide: true },
  { text: animals ? "Today in" : "", wide: true },
  { text: "State" },
];

/** Who uses how much: the day and the season as pictures, a line for each herd, crop and pond, one open at a time. */
export function Demand(props: DemandProps) {
  const { apply } = useEdits();
  const { document, analysis, faults, edit, onDone } = props;
  const system = usePreferences((state) => state.system);
  const { demand } = analysis;
  const lookEveryH = useLookEveryH(document);
  const rows = demandRows(props, system);
  const [open, setOpen] = useOpened(rows.map((row) => row.id));
  const shown = shownCase(document);
  const day = document.scenarios?.[shown]?.date ?? null;
  const setDay = (chosen: string | null) => {
    const at = (index: number) => {
      edit("scenario.date", (draft) => {
        const own = draft.scenarios?.[index];
        if (own) own.date = chosen;
      });
      onDone();
    };
    if (shown >= 0) at(shown);
    else apply("case.new", [{ kind: "add_case", case: "ordinary day" }], { then: () => at(0) });
  };
  const add = (key: string, edits: DesignEdit[]) => {
    apply(key, edits);
    onDone();
  };
  const animals = (document.herds ?? []).length > 0;
  const hasOutlets = (document.outlets ?? []).length > 0;
  const losing = new Set((document.ponds ?? []).map((pond) => pond.vessel));
  const ponds = (document.vessels ?? []).filter((vessel) => vessel.role === "pond" && !losing.has(vessel.id));
  return (
    <Box sx={{ p: { xs: 3, md: 4 }, maxWidth: 1240 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, rowGap: 2, alignItems: "center" }}>
        <Typography variant="h1" data-testid="demand-total">
          Demand: {quantityText({ value: demand.daily_l, unit: "L/d" }, system)}
        </Typography>
        <Typography color="text.secondary" sx={{ flex: "1 1 180px" }}>
          {demand.scenario}
          {day ? `, ${day}` : ""}
        </Typography>
        {hasOutlets && (
          <>
            <Button variant="outlined" onClick={() => add("herd.new", [{ kind: "add_herd" }])}>
              Add herd
            </Button>
            <Button variant="outlined" onClick={() => add("crop.new", [{ kind: "add_crop" }])}>
              Add plants
            </Button>
          </>
        )}
        {ponds.map((pond) => (
          <Button
            key={pond.id}
            variant="outlined"
            onClick={() => add("pond.new", [{ kind: "add_pond_loss", vessel: pond.id }])}
          >
            Add losses of {named(pond)}
          </Button>
        ))}
        <Button
          onClick={() =>
            download(demandTable(document, demand, system), "text/csv", `${document.site.name} demand`, "csv")
          }
        >
          Download CSV
        </Button>
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 2fr) minmax(0, 3fr)" },
          columnGap: 4,
          my: 3,
        }}
      >
        <DayCurve document={document} hours={demand.hours_l} shown={document.shown_for ?? ""} />
        <SeasonStrip document={document} season={demand.season} day={day} onDay={setDay} />
      </Box>
      <Overview
        label="Demand"
        first="Who"
        columns={columns(animals)}
        rows={rows}
        open={open}
        onOpen={setOpen}
      />
      {rows.length === 0 && (
        <Typography sx={{ my: 3 }}>
          {hasOutlets
            ? "No use yet: add a herd, or plants."
            : "No use yet: draw a pipe to a trough or a tap under Lines first, then add animals or plants here."}
        </Typography>
      )}
      <Box sx={{ display: "flex", gap: 4, mt: 3, flexWrap: "wrap" }}>
        <Box sx={{ width: 150 }}>
          <DayField
            label="Day of the case"
            value={day ?? ""}
            hint={day || !animals ? undefined : "no day: no rotation"}
            fault={faultAt(faults, `/scenarios/${shown}/date`)}
            onChange={setDay}
          />
        </Box>
        <Box sx={{ width: 150 }}>
          <QuantityField
            label="Hours between looks"
            family="count"
            value={lookEveryH}
            hint={document.site.look_every_h === undefined ? "assumed, please check" : undefined}
            fault={faultAt(faults, "/site/look_every_h")}
            onDone={onDone}
            onChange={(value) => edit("site.look", (draft) => void (draft.site.look_every_h = value))}
          />
        </Box>
      </Box>
      <Caution>
        {document.crops?.length && !document.herds?.length
          ? "Plants in pots wilt within a day of heat without water: look daily, and keep water in hand."
          : "Animals die within days without water. Plan on the larger figure, look daily, and count every animal."}
      </Caution>
    </Box>
  );
}
