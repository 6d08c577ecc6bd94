import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Analysis, Catalogue, Design, Fault, Rest } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { usePreferences } from "../../shared/preferences";
import { useLookEveryH } from "../../shared/defaults";
import { download } from "../../shared/download";
import { DayField } from "../../shared/DayField";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { DayCurve } from "./DayCurve";
import { Growing } from "./Growing";
import { HerdCard } from "./HerdCard";
import { Paddocks } from "./Paddocks";
import { needTable } from "./table";
import { SeasonStrip } from "./SeasonStrip";
import { useEdits } from "../../shared/edits";

interface Props {
  document: Design;
  analysis: Analysis;
  /** how the herds fare at their troughs, once that is known */
  rest: Rest | null;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Who drinks, how much in the chosen case, and whether the trough keeps up when they come. */
export function Need(props: Props) {
  const { apply } = useEdits();
  const { document, analysis, rest, faults, edit, onDone } = props;
  const system = usePreferences((state) => state.system);
  const { need } = analysis;
  const lookEveryH = useLookEveryH(document);
  const herds = document.herds ?? [];
  const shown = (document.scenarios ?? []).findIndex((one) => one.id === document.shown_for);
  const day = document.scenarios?.[shown]?.date ?? null;
  const setDay = (chosen: string | null) => {
    edit("scenario.date", (draft) => {
      const own = draft.scenarios?.[shown];
      if (own) own.date = chosen;
    });
    onDone();
  };
  return (
    <Box sx={{ p: 5, maxWidth: 960 }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", gap: 4 }}>
        <Typography variant="h1">
          Need: {quantityText({ value: need.daily_l, unit: "L/d" }, system)} on the day shown
        </Typography>
        <Button
          sx={{ whiteSpace: "nowrap" }}
          onClick={() => download(needTable(document, need), "text/csv", `${document.site.name} need`, "csv")}
        >
          Save as table
        </Button>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        {need.scenario}: what is published for the class, or by weight where that is more; never less in heat.
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 5, mb: 3 }}>
        {(document.scenarios ?? []).map((scenario, index) => (
          <Box key={scenario.id} sx={{ width: 130 }}>
            <QuantityField
              label={`Air, ${(scenario.name ?? scenario.id).toLowerCase()}`}
              family="°C"
              value={scenario.air_c ?? null}
              fault={faultAt(faults, `/scenarios/${index}/air_c`)}
              onDone={onDone}
              onChange={(value) =>
                edit(`scenario${index}.air`, (draft) => {
                  const own = draft.scenarios?.[index];
                  if (own) own.air_c = value;
                })
              }
            />
          </Box>
        ))}
        <Box sx={{ width: 130 }}>
          <QuantityField
            label="Hours between looks"
            family="count"
            value={lookEveryH}
            hint={document.site.look_every_h === undefined ? "our default" : undefined}
            fault={faultAt(faults, "/site/look_every_h")}
            onDone={onDone}
            onChange={(value) => edit("site.look", (draft) => void (draft.site.look_every_h = value))}
          />
        </Box>
        {shown >= 0 && (
          <Box sx={{ width: 140 }}>
            <DayField
              label="Day shown"
              value={day ?? ""}
              hint={day ? undefined : "none: no moves"}
              fault={faultAt(faults, `/scenarios/${shown}/date`)}
              onChange={setDay}
            />
          </Box>
        )}
        {shown >= 0 && (
          <Box sx={{ width: 120 }}>
            <Choice
              label="The day shown is"
              value={need.humid ? "humid" : "dry"}
              options={[
                { value: "dry", text: "dry" },
                { value: "humid", text: "humid" },
              ]}
              onChange={(value) => {
                edit("scenario.humid", (draft) => {
                  const own = draft.scenarios?.[shown];
                  if (own) own.humid = value === "humid";
                });
                onDone();
              }}
            />
          </Box>
        )}
      </Box>
      <DayCurve document={document} hours={need.hours_l} shown={document.shown_for ?? ""} />
      <SeasonStrip document={document} season={need.season} day={day} onDay={setDay} />
      {herds.map((herd, index) => (
        <HerdCard
          key={herd.id}
          {...props}
          herd={herd}
          index={index}
          report={need.herds.find((one) => one.id === herd.id)}
          moved={need.others.find((one) => one.kind === "move" && one.herd === herd.id)}
          watering={rest?.watering.find((one) =>
            [...one.visits, ...one.near].some((at) => at.herd === herd.id),
          )}
          waiting={rest === null}
        />
      ))}
      {herds.length === 0 && <Typography>No animals are on this water yet.</Typography>}
      {(document.outlets ?? []).length > 0 && (
        <Button
          variant="outlined"
          sx={{ my: 3 }}
          onClick={() => {
            apply("herd.new", [{ kind: "add_herd" }]);
            onDone();
          }}
        >
          Add a herd
        </Button>
      )}
      <Paddocks document={document} faults={faults} edit={edit} onDone={onDone} />
      <Growing document={document} need={need} rest={rest} faults={faults} edit={edit} onDone={onDone} />
      <Caution>
        Animals die within days without water. Plan on the larger figure, look daily, and count every head.
      </Caution>
    </Box>
  );
}
