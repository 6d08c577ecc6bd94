import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";

import { useState } from "react";

import type { Becomes, Design, ImportReport } from "../../api/types";
import { ink } from "../../app/theme";
import { BareChoice } from "../../shared/BareChoice";
import { Choice } from "../../shared/Choice";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import type { Said } from "./Files";
import { ProfilePicture } from "./ProfilePicture";
import { SmallPlan } from "./SmallPlan";

interface Props {
  document: Design;
  report: ImportReport;
  said: Said;
  onSaid: (said: Said) => void;
  onTake: (made: Design) => void;
  onLeave: () => void;
}

type Question = ImportReport["questions"][number];

const ASKED: Record<Question, string> = {
  datum:
    "What are these heights above? Phones often measure from an ellipsoid, tens of metres off a map, but differences are still right.",
  system: "Which coordinates are these?",
  position:
    "Where is the plan? Choose which point of the file is which place, or give the latitude and longitude of the plan below.",
  turned: "The file is far from the plan; with latitude and longitude swapped it would be on it.",
  "common place":
    "Nothing in the file is a place of the plan with a height of its own: relative heights only have no reference. Say which point is which place.",
};

/** What a file would change, before it does: what becomes of each thing, the profiles, and what has to be said first. */
export function ImportPreview({ document, report, said, onSaid, onTake, onLeave }: Props) {
  const system = usePreferences((state) => state.system);
  const metres = (value: number) => quantityText({ value, unit: "m", digits: 1 }, system);
  const put = (key: "spots" | "walks" | "areas", one: Becomes, value: string) =>
    onSaid({ ...said, [key]: { ...said[key], [one.number]: value } });
  const lines = (report.document ?? document).lines; // with those that would be new
  const nameOf = (id: string) => lines?.find((line) => line.id === id)?.name ?? id;
  return (
    <Box
      component="section"
      aria-label="What the file would change"
      sx={{ border: `1px solid ${ink("rule")}`, bgcolor: ink("sheet"), p: 3, my: 3 }}
      data-testid="import-preview"
    >
      <Typography variant="h2">
        {report.source}: {report.format}
        {report.grid &&
          `, ${report.grid.columns} × ${report.grid.rows} cells, ${report.grid.covers} of ${report.grid.places} places on it`}
      </Typography>
      {report.notes.map((note) => (
        <Typography key={note} component="p" color="text.secondary">
          {note}
        </Typography>
      ))}
      {report.questions.map((question) => (
        <Typography
          key={question}
          component="p"
          sx={{ color: ink("little"), fontWeight: 700 }}
          data-testid="import-question"
        >
          ◆ {ASKED[question]}
        </Typography>
      ))}
      <Box
        sx={{ display: "flex", flexWrap: "wrap", gap: 4, alignItems: "end", my: 2, "& > *": { width: 270 } }}
      >
        <Choice
          label="Heights are"
          value={said.datum ?? ""}
          options={[
            { value: "", text: "unknown" },
            { value: "differences", text: "relative heights only (phone)" },
            { value: "site", text: "above the plan's own datum" },
          ]}
          onChange={(value) => onSaid({ ...said, datum: (value || null) as Said["datum"] })}
        />
        <QuantityField
          label="Heights known to ±"
          family="m"
          digits={1}
          value={said.error_m ?? report.error_m}
          hint={said.error_m == null ? "usual for such a file; from memory" : undefined}
          onChange={(value) => value > 0 && onSaid({ ...said, error_m: value })}
        />
        {(report.system === null || report.system.startsWith("EPSG") || said.system) && (
          <TextField
            label="Coordinates"
            size="small"
            variant="standard"
            defaultValue={said.system ?? report.system ?? ""}
            helperText="local (metres of the plan), wgs84, or as EPSG:25832"
            slotProps={{ inputLabel: { shrink: true } }}
            onBlur={(event) =>
              event.target.value !== (said.system ?? report.system ?? "") &&
              onSaid({ ...said, system: event.target.value || null })
            }
            onKeyDown={(event) => {
              if (event.key === "Enter") (event.target as HTMLInputElement).blur();
            }}
          />
        )}
        {(report.questions.includes("turned") || said.turned) && (
          <Choice
            label="Latitude and longitude"
            value={said.turned ? "yes" : "no"}
            options={[
              { value: "no", text: "as in the file" },
              { value: "yes", text: "swapped" },
            ]}
            onChange={(value) => onSaid({ ...said, turned: value === "yes" })}
          />
        )}
      </Box>
      {report.tie_points.length > 0 && <Tie {...{ document, report, said, onSaid }} />}
      {report.anchor && (
        <Typography component="p">
          The plan will be at {report.anchor.latitude_deg.toFixed(5)},{" "}
          {report.anchor.longitude_deg.toFixed(5)}
          {report.fit_m != null && `; places in common fall together within ${metres(report.fit_m)}`}.
        </Typography>
      )}
      {(report.document ?? (report.tracks.length > 0 && document)) && (
        <SmallPlan
          before={document}
          after={report.document ?? document}
          tracks={report.tracks}
          line={report.profiles[0]?.line}
        />
      )}
      <Things
        title="Points"
        things={report.spots}
        options={[
          ...document.places.map((place) => ({ value: place.id, text: place.name ?? place.id })),
          { value: "new", text: "a new place" },
        ]}
        told={(one) =>
          [
            one.height_m == null ? "no height" : metres(one.height_m),
            one.away_m == null ? "" : `${metres(one.away_m)} away`,
          ]
            .filter(Boolean)
            .join(", ")
        }
        onPut={(one, value) => put("spots", one, value)}
      />
      <Things
        title="Tracks"
        things={report.walks}
        options={[
          { value: "new trough", text: "a new pipe to a trough" },
          { value: "new", text: "a new pipe" },
          ...(document.lines ?? []).map((line) => ({ value: line.id, text: line.name ?? line.id })),
        ]}
        told={(one) => `${one.points ?? 0} points`}
        onPut={(one, value) => put("walks", one, value)}
      />
      <Things
        title="Areas"
        things={report.areas}
        options={[
          ...(document.paddocks ?? []).map((paddock) => ({
            value: paddock.id,
            text: paddock.name ?? paddock.id,
          })),
          { value: "new", text: "a new paddock" },
        ]}
        told={() => ""}
        onPut={(one, value) => put("areas", one, value)}
      />
      {report.profiles.map((profile) => (
        <Box key={profile.line} sx={{ mt: 3 }}>
          <Typography variant="h2">{nameOf(profile.line)}</Typography>
          <ProfilePicture profile={profile} name={nameOf(profile.line)} />
          <Typography component="p">
            {profile.points.length} points kept, {profile.extremes} of them high and low points; smoothing
            took out up to ± {metres(profile.noise_m)}, known to ± {metres(profile.error_m)}. Heights moved by{" "}
            {metres(profile.raised_m[0])} at the start and {metres(profile.raised_m[1])} at the end to fit the
            heights already known
            {profile.tilt_m > profile.error_m && " (more apart than their error explains)"}. Along the ground{" "}
            {metres(profile.slope_m)}; the pipe is {metres(profile.pipe_m)}.
          </Typography>
        </Box>
      ))}
      <Typography component="p" sx={{ my: 2 }}>
        {report.document
          ? report.changes.length
            ? `Would change: ${report.changes
                .slice(0, 8)
                .map((change) => saidText(change, system))
                .join("; ")}${report.changes.length > 8 ? `; and ${report.changes.length - 8} more` : ""}.`
            : "Nothing in it is new to the plan."
          : "Nothing is imported until this is answered."}
      </Typography>
      <Button
        variant="contained"
        disabled={!report.document || !report.changes.length}
        onClick={() => report.document && onTake(report.document)}
      >
        Import
      </Button>{" "}
      <Button onClick={onLeave}>Cancel</Button>
    </Box>
  );
}

/** Which point of the file is which place of the plan: that says where the plan lies. */
function Tie({ document, report, said, onSaid }: Pick<Props, "document" | "report" | "said" | "onSaid">) {
  const [point, setPoint] = useState(said.position?.[0] ?? 0);
  const first = document.places[0]?.id ?? "";
  const place = said.position?.[1] ?? "";
  const tie = (number: number, id: string) => onSaid({ ...said, position: id ? [number, id] : null });
  return (
    <Box
      role="group"
      aria-label="Where the plan is"
      sx={{ display: "flex", flexWrap: "wrap", gap: 4, my: 2, "& > *": { width: 270 } }}
    >
      <Choice
        label="Point of the file"
        value={String(point)}
        options={report.tie_points.map((name, number) => ({ value: String(number), text: name }))}
        onChange={(value) => {
          setPoint(Number(value));
          tie(Number(value), place || first);
        }}
      />
      <Choice
        label="is this place of the plan"
        value={place}
        options={[
          { value: "", text: "choose …" },
          ...document.places.map((one) => ({ value: one.id, text: one.name ?? one.id })),
        ]}
        onChange={(value) => tie(point, value)}
      />
    </Box>
  );
}

interface ThingsProps {
  title: string;
  things: Becomes[];
  options: { value: string; text: string }[];
  told: (one: Becomes) => string;
  onPut: (one: Becomes, value: string) => void;
}

/** What becomes of each point, track or area; every answer can be changed. */
function Things({ title, things, options, told, onPut }: ThingsProps) {
  if (!things.length) return null;
  return (
    <Box sx={{ mt: 2, maxHeight: 300, overflowY: "auto" }}>
      <Typography variant="h2">{title}</Typography>
      {things.map((one) => (
        <Box
          key={one.number}
          sx={{
            display: "grid",
            gridTemplateColumns: {
              xs: "1fr 1fr",
              md: "minmax(90px, 1fr) minmax(120px, 1fr) 190px minmax(90px, 1fr)",
            },
            gap: 3,
            alignItems: "center",
            fontSize: 13,
          }}
        >
          <strong>{one.name}</strong>
          <span>{told(one)}</span>
          <BareChoice
            name={`${one.name} is`}
            value={one.of}
            options={[...options, { value: "skip", text: "left out" }]}
            onChange={(value) => onPut(one, value)}
          />
          <span style={{ color: ink("faint") }}>{one.why}</span>
        </Box>
      ))}
    </Box>
  );
}
