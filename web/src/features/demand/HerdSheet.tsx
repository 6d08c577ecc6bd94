import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Catalogue, Design, Fault, Herd, HerdDemand, OtherDemand, Watering } from "../../api/types";
import { deleted, useEdits } from "../../shared/edits";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { named, troughName } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { usePreferences } from "../../shared/preferences";
import { Steps } from "../../shared/Steps";
import { QuantityField } from "../../shared/QuantityField";
import { Said } from "../../shared/Said";
import { quantityText } from "../../shared/units";
import { AtTheTrough } from "./AtTheTrough";
import { DrinkingFields } from "./DrinkingFields";
import { seasonYear } from "./model";
import { Moves } from "./Moves";
import { DeleteButton } from "../../shared/DeleteButton";
import { Folded } from "../../shared/Folded";

interface Props {
  document: Design;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  herd: Herd;
  index: number;
  report: HerdDemand | undefined;
  /** what is thrown away as its trough is moved on the day shown */
  moved: OtherDemand | undefined;
  watering: Watering | undefined;
  waiting: boolean;
}

const FIELDS = {
  display: "grid",
  gridTemplateColumns: "repeat(auto-fill, minmax(140px, 1fr))",
  columnGap: 5,
  rowGap: 3,
  my: 2,
} as const;

/** One herd: its numbers, what one animal drinks and where that comes from, and how it fares at its trough. */
export function HerdSheet({
  document,
  catalogue,
  faults,
  edit,
  onDone,
  herd,
  index,
  report,
  moved,
  watering,
  waiting,
}: Props) {
  const { apply } = useEdits();
  const path = `/herds/${index}`;
  const kind = catalogue?.animals.find((animal) => animal.name === herd.class);
  const change = (key: string, recipe: (draft: Herd) => void) =>
    edit(`${herd.id}.${key}`, (draft) => {
      const own = draft.herds?.[index];
      if (own) recipe(own);
    });
  const classes = (catalogue?.animals ?? []).map((animal) => ({
    value: animal.name,
    text: animal.name,
    group: animal.species,
  }));
  const system = usePreferences((state) => state.system);
  const rotates = (document.calendar ?? []).some((rotation) => rotation.herd === herd.id);
  const known = classes.some((option) => option.value === herd.class);
  return (
    <Box data-testid={`herd-${herd.id}`}>
      <Box sx={FIELDS}>
        <PartNameField
          value={named(herd)}
          onDone={onDone}
          onChange={(name) => change("name", (draft) => void (draft.name = name))}
        />
        <QuantityField
          label="Number of animals"
          family="count"
          value={herd.head}
          fault={faultAt(faults, `${path}/head`)}
          onDone={onDone}
          onChange={(value) => change("head", (draft) => void (draft.head = value))}
        />
        <Choice
          label="Class"
          value={herd.class}
          options={known ? classes : [{ value: herd.class, text: herd.class, group: "your own" }, ...classes]}
          onChange={(value) => {
            change("class", (draft) => void (draft.class = value));
            onDone();
          }}
        />
        {kind && (
          <QuantityField
            label="Weight each"
            family="kg"
            value={herd.weight_kg ?? null}
            hint={
              herd.weight_kg
                ? undefined
                : `empty: ${quantityText({ value: kind.usual_kg, unit: "kg" }, system)} is usual`
            }
            fault={faultAt(faults, `${path}/weight_kg`)}
            onDone={onDone}
            onChange={(value) => change("weight", (draft) => void (draft.weight_kg = value))}
            onClear={() => change("weight", (draft) => void (draft.weight_kg = null))}
          />
        )}
        {kind?.gives_milk && (
          <QuantityField
            label="Milk each, kg a day"
            family="count"
            digits={1}
            value={herd.milk_kgd ?? null}
            hint={
              typeof herd.milk_kgd === "number" || typeof report?.milk_kgd !== "number"
                ? undefined
                : `empty: ${report.milk_kgd} is usual`
            }
            fault={faultAt(faults, `${path}/milk_kgd`)}
            onDone={onDone}
            onChange={(value) => change("milk", (draft) => void (draft.milk_kgd = value))}
            onClear={() => change("milk", (draft) => void (draft.milk_kgd = null))}
          />
        )}
        {kind?.species === "cattle" && (
          <QuantityField
            label="Calves at foot"
            family="count"
            value={herd.calves ?? 0}
            fault={faultAt(faults, `${path}/calves`)}
            onDone={onDone}
            onChange={(value) => change("calves", (draft) => void (draft.calves = value))}
          />
        )}
        <QuantityField
          label="Own figure per animal"
          family="L/d"
          digits={1}
          value={herd.intake_lpd ?? null}
          hint={herd.intake_lpd ? "used instead of the table" : "empty: the table is used"}
          fault={faultAt(faults, `${path}/intake_lpd`)}
          onDone={onDone}
          onChange={(value) => change("own", (draft) => void (draft.intake_lpd = value))}
          onClear={() => change("own", (draft) => void (draft.intake_lpd = null))}
        />
        <Choice
          label="Drinks at"
          value={herd.outlet}
          options={(document.outlets ?? []).map((outlet) => ({
            value: outlet.id,
            text: troughName(document, outlet.id),
          }))}
          onChange={(value) => {
            change("outlet", (draft) => void (draft.outlet = value));
            onDone();
          }}
        />
      </Box>
      {report && <Told herd={herd} report={report} document={document} />}
      {moved && (
        <Typography component="p" data-testid={`moved-${herd.id}`}>
          {quantityText({ value: moved.daily_l, unit: "L" }, system)} <Said words={moved.how_words} />.
        </Typography>
      )}
      <DrinkingFields
        herd={herd}
        habit={
          watering?.visits.find((one) => one.herd === herd.id)?.habit ??
          watering?.near.find((one) => one.herd === herd.id)?.habit
        }
        faults={faults}
        path={path}
        change={change}
        onDone={onDone}
      />
      {herd.drinking && <AtTheTrough herd={herd} watering={watering} waiting={waiting} document={document} />}
      <Folded title="Rotation" open={rotates}>
        <Moves document={document} herd={herd} faults={faults} edit={edit} onDone={onDone} />
      </Folded>
      <Folded title="Numbers over the season" open={(herd.counts ?? []).length > 0}>
        <Steps
          label="Number"
          ask="Their number changes over the season"
          family="count"
          steps={(herd.counts ?? []).map((one) => ({ from: one.from, value: one.head }))}
          first={herd.head}
          year={seasonYear(document)}
          fault={faultAt(faults, path) ?? faultAt(faults, `${path}/counts`)}
          onDone={onDone}
          onChange={(key, steps) =>
            change(`counts.${key}`, (draft) => {
              draft.counts = steps.map(({ from, value }) => ({ from, head: Math.max(0, Math.round(value)) }));
            })
          }
        />
      </Folded>
      <DeleteButton
        onClick={() => {
          apply("herd.deleted", deleted(herd.id));
          onDone();
        }}
      />
    </Box>
  );
}

/** What one animal and all of them drink, and who says so. */
function Told({ herd, report, document }: { herd: Herd; report: HerdDemand; document: Design }) {
  const system = usePreferences((state) => state.system);
  const paddockName = (id: string) => document.paddocks?.find((one) => one.id === id)?.name ?? id;
  const litres = (value: number, digits = value < 10 ? 1 : 0) =>
    quantityText({ value, unit: "L/d", digits }, system);
  return (
    <Typography component="div">
      <strong>{litres(report.per_head_lpd)}</strong> for one,{" "}
      <strong data-testid={`demand-${herd.id}`}>{litres(report.daily_l)}</strong> for all {report.head}
      {report.outlets.length > 0 && (report.outlets.length > 1 || report.outlets[0] !== herd.outlet)
        ? `, on this day at ${report.outlets.map((one) => troughName(document, one)).join(", then ")}`
        : ""}
      {report.paddocks.length > 0 && `, grazing ${report.paddocks.map(paddockName).join(", then ")}`}.
      {report.notes.map((note, index) => (
        <span key={index}>
          {" "}
          <Said words={note} />
        </span>
      ))}
      <Typography component="span" variant="caption" color="text.secondary" sx={{ display: "block" }}>
        {report.published_lpd !== null && (
          <>
            Published: {litres(report.published_lpd)}, water in the feed{" "}
            {report.counts_feed_water ? "counted too: on wet feed they drink less" : "not counted"}.{" "}
          </>
        )}
        {report.by_weight_lpd !== null && (
          <>
            By weight: {litres(report.by_weight_lpd)} (source: {report.by_weight_source}).{" "}
          </>
        )}
        {report.humid_lpd > 0 && (
          <>Humid day: {litres(report.humid_lpd)} more (our own allowance, no source). </>
        )}
        Source: {report.source}
      </Typography>
    </Typography>
  );
}
