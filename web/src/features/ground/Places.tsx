import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";

import type { Design, Fault, GroundReport, PlaceHeight } from "../../api/types";
import { ink } from "../../app/theme";
import { useEdits } from "../../shared/edits";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { heightTaken } from "./model";
import { WaysPicture } from "./WaysPicture";

interface Props {
  document: Design;
  ground: GroundReport;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const ROW = {
  display: "grid",
  gridTemplateColumns: {
    xs: "1fr 1fr",
    md: "minmax(110px, 1fr) 110px 100px minmax(130px, 1fr) minmax(190px, 1.3fr)",
  },
  columnGap: 4,
  rowGap: 1,
  alignItems: "end",
  borderTop: `1px solid ${ink("rule")}`,
  py: 2,
} as const;

/** Every place with its height, the way it comes from and how good it is; beside it what the readings say. */
export function Places({ document, ground, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const metres = (value: number) => quantityText({ value, unit: "m" }, system);
  const nameOf = (id: string) => document.places.find((place) => place.id === id)?.name ?? id;
  const others = ground.places.filter((one) => Math.abs(one.over_plan_m) >= 0.0005);
  return (
    <>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 5, alignItems: "end", mb: 2 }}>
        <Box sx={{ width: 230 }}>
          <Choice
            label="Height taken as known"
            value={document.bench ?? ""}
            options={[
              {
                value: "",
                text: ground.bench ? `${nameOf(ground.bench)} (where readings begin)` : "none yet",
              },
              ...document.places.map((place) => ({ value: place.id, text: place.name ?? place.id })),
            ]}
            onChange={(value) => {
              edit("bench", (draft) => void (draft.bench = value || null));
              onDone();
            }}
          />
        </Box>
        {others.length > 1 && (
          <Button
            variant="outlined"
            onClick={() => {
              apply("heights.taken", ground.places.map(heightTaken));
              onDone();
            }}
          >
            Use all {ground.places.length} measured heights
          </Button>
        )}
      </Box>
      {ground.sources.map((source) => (
        <Typography key={source.source} component="p" sx={{ mb: 1 }}>
          <strong>{source.source}</strong> stands {metres(Math.abs(source.raised_m))}{" "}
          {source.raised_m < 0 ? "above" : "below"} the plan&rsquo;s datum, by {source.places}{" "}
          {source.places === 1 ? "place" : "places"} that it shares with other ways (good to ±{" "}
          {metres(source.error_m)}): its heights are moved by that, together.
        </Typography>
      ))}
      {ground.unjoined.length > 0 && (
        <Typography component="p" sx={{ mb: 1, color: ink("little") }}>
          No reading connects {ground.unjoined.map(nameOf).join(", ")} to the height taken as known: they get
          no measured height.
        </Typography>
      )}
      {ground.places.length > 0 && (
        <Typography variant="caption" component="p" sx={{ color: ink("faint"), mb: 1 }}>
          ○ each way with its error, and its weight · shaded: all together · dashed: as the plan has it
        </Typography>
      )}
      {document.places.map((place, index) => {
        const found = ground.places.find((one) => one.place === place.id);
        const path = `/places/${index}`;
        const name = place.name ?? place.id;
        const put = (key: string, recipe: (own: Design["places"][number]) => void) =>
          edit(`${place.id}.${key}`, (draft) => {
            const own = draft.places[index];
            if (own) recipe(own);
          });
        return (
          <Box key={place.id} role="group" aria-label={name} sx={ROW}>
            <strong>{name}</strong>
            <QuantityField
              label={`Ground of ${name}`}
              family="m"
              value={place.ground_m}
              fault={faultAt(faults, `${path}/ground_m`)}
              onDone={onDone}
              onChange={(value) =>
                apply(`${place.id}.ground`, [{ kind: "set_ground", place: place.id, ground_m: value }])
              }
            />
            <QuantityField
              label="Known to ±"
              family="m"
              value={place.height_error_m ?? null}
              hint={place.height_error_m == null ? "unknown: taken as exact" : undefined}
              fault={faultAt(faults, `${path}/height_error_m`)}
              onDone={onDone}
              onChange={(value) => put("error", (own) => void (own.height_error_m = value))}
              onClear={() => put("error", (own) => void (own.height_error_m = null))}
            />
            <TextField
              label="From"
              value={place.height_from ?? ""}
              size="small"
              variant="standard"
              placeholder="unknown"
              onBlur={onDone}
              onChange={(event) =>
                put("from", (own) => void (own.height_from = event.target.value.slice(0, 60) || null))
              }
              slotProps={{ inputLabel: { shrink: true } }}
            />
            <Measured
              {...{ found, metres }}
              onTake={() => {
                if (!found) return;
                apply(`${place.id}.taken`, [heightTaken(found)]);
                onDone();
              }}
            />
            {found && <WaysPicture found={found} planM={place.ground_m} name={name} />}
          </Box>
        );
      })}
    </>
  );
}

/** What the readings say of a place beside what the plan has. */
function Measured({
  found,
  metres,
  onTake,
}: {
  found: PlaceHeight | undefined;
  metres: (value: number) => string;
  onTake: () => void;
}) {
  if (!found) return <span />;
  const off = found.over_plan_m;
  return (
    <Box sx={{ display: "flex", gap: 3, alignItems: "center", justifyContent: "space-between" }}>
      <span>
        {Math.abs(off) < 0.005
          ? "as measured"
          : `measured ${metres(Math.abs(off))} ${off > 0 ? "higher" : "lower"}`}
        {found.disagree && (
          <>
            <br />
            <strong style={{ color: ink("short") }}>▲ the readings disagree</strong>
          </>
        )}
      </span>
      <Button variant="outlined" onClick={onTake} aria-label={`Use the measured height of ${found.place}`}>
        Use
      </Button>
    </Box>
  );
}
