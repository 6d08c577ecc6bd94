import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import { runSeason } from "../../api/client";
import { tellStandbys } from "../../api/field";
import type { Analysis, Design, Fault, Finding, Rest } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { useEdits } from "../../shared/edits";
import { nameIn } from "../../shared/names";
import { Overview, type Column } from "../../shared/Overview";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useOpened } from "../../shared/useOpened";
import { useSettled } from "../../shared/useSettled";
import { Bars } from "./Bars";
import { Carries } from "./Carries";
import { KINDS } from "./inflow";
import { supplyRows } from "./rows";
import { addedStandby, STANDBY } from "./standby";
import { YearPicture } from "./YearPicture";

export interface SupplyProps {
  document: Design;
  analysis: Analysis;
  /** what takes longer; null until it is there */
  rest: Rest | null;
  /** those about supply */
  findings: Finding[];
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const COLUMNS: Column[] = [
  { text: "Kind", wide: true },
  { text: "Brings a day", number: true },
  { text: "In store", number: true },
  { text: "Fills", wide: true },
  { text: "State" },
];

/** What comes in, what is in store and how long that lasts: as pictures, and a line for each source and store. */
export function Supply(props: SupplyProps) {
  const { document, analysis, rest, edit, onDone } = props;
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const { supply } = analysis;
  const told = useSettled(["season"], document, document, runSeason);
  const daily = (value: number) => quantityText({ value, unit: "L/d" }, system);
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const wanted = document.requirements?.findIndex((one) => one.days_in_hand) ?? -1;
  const days = rest?.lasts?.days ?? supply.days_in_hand;
  const asked = document.standbys?.length ? document : null;
  const standbys = useKept(useSettled(["standbys"], asked, asked, tellStandbys));
  const rows = supplyRows(props, told?.season ?? null, standbys?.standbys ?? [], system);
  const [open, setOpen] = useOpened(rows.map((row) => row.id));
  return (
    <Box sx={{ p: { xs: 3, md: 4 }, maxWidth: 1240 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, rowGap: 2, alignItems: "center" }}>
        <Typography variant="h1" data-testid="supply-total">
          Supply: {daily(supply.refill_lpd)}
        </Typography>
        <Typography color="text.secondary" sx={{ flex: "1 1 180px" }}>
          {analysis.demand.scenario}:{" "}
          {supply.demand_lpd === 0
            ? "no use yet"
            : supply.by_hand
              ? `filled by hand, ${daily(supply.demand_lpd)} used`
              : supply.spare_lpd === 0
                ? "as much as is used"
                : `${daily(Math.abs(supply.spare_lpd))} ${supply.spare_lpd > 0 ? "more" : "less"} than is used`}
        </Typography>
        {(document.vessels ?? []).length > 0 && (
          <Box sx={{ width: 180 }}>
            <Choice
              label="Add source"
              value=""
              options={[
                { value: "", text: "choose …" },
                ...KINDS.map(({ kind, text }) => ({ value: kind, text })),
                STANDBY,
              ]}
              onChange={(kind) => {
                if (kind === STANDBY.value) {
                  edit("standby.new", (draft) => void addedStandby(draft));
                  onDone();
                  return;
                }
                const chosen = KINDS.find((one) => one.kind === kind);
                if (!chosen) return;
                apply("inflow.new", [{ kind: "add_inflow", source: chosen.kind }]);
                onDone();
              }}
            />
          </Box>
        )}
      </Box>
      {supply.system && (
        <Typography color="text.secondary" data-testid="system">
          No water runs between the systems of this plan. The numbers are of {supply.system}, which lasts
          least.
        </Typography>
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            md: told?.season ? "minmax(0, 2fr) minmax(0, 3fr)" : "minmax(0, 640px)",
          },
          columnGap: 5,
        }}
      >
        <Box>
          <Bars analysis={analysis} bars={told?.bars ?? []} />
          <Typography data-testid="store-told">
            {litres(supply.usable_l)} usable, {litres(supply.dead_l)} unusable below the outlets.{" "}
            {days !== null && (
              <>
                With no refill it lasts <strong>{quantityText({ value: days, unit: "d" }, system)}</strong>
                {rest?.lasts?.first &&
                  `, every float shut at first, until ${nameIn(document.vessels, rest.lasts.first)} is empty`}
                .
              </>
            )}
          </Typography>
          <Carries analysis={analysis} days={days} document={document} />
        </Box>
        {told?.season && (
          <YearPicture document={document} season={told.season} wantedDays={supply.wanted_days} />
        )}
      </Box>
      <Overview
        label="Supply"
        first="Source or store"
        columns={COLUMNS}
        rows={rows}
        open={open}
        onOpen={setOpen}
      />
      <Box sx={{ maxWidth: 170, mt: 3 }}>
        <QuantityField
          label="Days with no refill, target"
          family="d"
          value={supply.wanted_days}
          hint={supply.wanted_is_default ? "assumed, please check; type to confirm" : undefined}
          onDone={onDone}
          onChange={(value) =>
            edit("days-in-hand", (draft) => {
              draft.requirements ??= [];
              const own = draft.requirements[wanted];
              const tank = analysis.routes.find((route) => route.vessel)?.vessel;
              if (own) own.days_in_hand = value;
              else if (tank) draft.requirements.push({ vessel: tank, days_in_hand: value });
            })
          }
        />
      </Box>
      <Caution>
        Keep two independent days in hand and look daily. Spring, pond and roof water is not drinking water
        for people.
      </Caution>
    </Box>
  );
}
