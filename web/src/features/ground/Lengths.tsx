import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { askProfile } from "../../api/client";
import type {
  Design,
  DesignEdit,
  Distance,
  Fault,
  GroundReport,
  LineLength,
  ProfileAnswer,
} from "../../api/types";
import { ink } from "../../app/theme";
import { deleted, useEdits } from "../../shared/edits";
import { BareChoice } from "../../shared/BareChoice";
import { faultAt, whatIsWrong } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { Cross } from "../../shared/DeleteButton";
import { figure, quantityText } from "../../shared/units";
import { ProfilePicture } from "./ProfilePicture";
import { COUNTED } from "./sights";

interface Props {
  document: Design;
  ground: GroundReport;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  replace: (document: Design) => void;
  onDone: () => void;
}

type CountedBy = Extract<DesignEdit, { kind: "add_distance" }>["counted"];

const KINDS: CountedBy[] = ["posts", "rolls", "paces", "tape"];
const ROW = {
  display: "grid",
  gridTemplateColumns: {
    xs: "1fr 1fr",
    md: "minmax(100px, 1fr) 72px 72px 72px minmax(130px, 1.2fr) 236px",
  },
  columnGap: 4,
  alignItems: "center",
  borderTop: `1px solid ${ink("rule")}`,
  py: 2,
} as const;

/** Lengths of lines by pipe, on plan and as counted along the ground; and their profiles. */
export function Lengths({ document, ground, faults, edit, replace, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const [filled, setFilled] = useState<{ line: string; told: string; answer: ProfileAnswer | null } | null>(
    null,
  );
  const metres = (value: number) => quantityText({ value, unit: "m", digits: 1 }, system);
  const pace = document.pace ?? null;
  const fill = (line: string) => {
    setFilled({ line, told: "Asking the height service …", answer: null });
    askProfile(document, line)
      .then((answer) => setFilled({ line, told: "", answer }))
      .catch((error: unknown) => setFilled({ line, told: whatIsWrong(error), answer: null }));
  };
  return (
    <>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        The pipe follows the ground: along a slope it is longer than the way on the plan. What is counted
        along the ground is a length of pipe; what is measured off a map is not.
      </Typography>
      <Pace {...{ pace, ground, faults, edit, onDone }} />
      <Box
        sx={{ ...ROW, borderTop: 0, display: { xs: "none", md: "grid" }, color: ink("faint"), fontSize: 13 }}
      >
        <span>Line</span>
        <span>Pipe</span>
        <span>On plan</span>
        <span>Straight on</span>
        <span>Counted along the ground</span>
        <span />
      </Box>
      {ground.lengths.map((one) => {
        const line = document.lines?.find((known) => known.id === one.line);
        if (!line) return null;
        const name = line.name ?? line.id;
        const counted = (document.distances ?? []).flatMap((distance, index) =>
          distance.line === line.id ? [{ distance, index }] : [],
        );
        return (
          <Box key={line.id} role="group" aria-label={name} sx={ROW}>
            <strong>{name}</strong>
            <span>{metres(one.pipe_m)}</span>
            <span>{metres(one.plan_m)}</span>
            <span style={one.too_short ? { color: ink("short"), fontWeight: 700 } : undefined}>
              {metres(one.straight_m)}
              {one.too_short && " ▲"}
            </span>
            <span>
              {one.weighed_m == null || one.error_m == null
                ? "not counted"
                : `${metres(one.weighed_m)} ± ${metres(one.error_m)}`}
            </span>
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, justifyContent: "flex-end" }}>
              <Count {...{ line: line.id, name, onDone }} />
              {one.weighed_m != null && line.length_m != null && (
                <Button
                  variant="outlined"
                  onClick={() => {
                    const length_m = Number((one.weighed_m ?? 0).toFixed(1));
                    apply(`${line.id}.length`, [{ kind: "set_length", line: line.id, length_m }]);
                    onDone();
                  }}
                >
                  Use
                </Button>
              )}
              <Button variant="outlined" onClick={() => fill(line.id)} aria-label={`Fill profile of ${name}`}>
                Fill profile
              </Button>
            </Box>
            {counted.map(({ distance, index }) => (
              <Counted key={distance.id} {...{ distance, index, one, faults, edit, onDone }} />
            ))}
            {line.points_from && (
              <Typography variant="caption" sx={{ gridColumn: "1 / -1", color: ink("faint") }}>
                {line.points?.length} points from {line.points_from}
                {line.points_error_m != null && `, known to ± ${metres(line.points_error_m)}`}
              </Typography>
            )}
            {filled?.line === line.id && (
              <Box sx={{ gridColumn: "1 / -1" }} data-testid="profile-filled">
                {filled.told && <Typography role="status">{filled.told}</Typography>}
                {filled.answer && (
                  <>
                    <ProfilePicture profile={filled.answer.profile} name={name} />
                    <Typography component="p">
                      {filled.answer.source}: heights known to ± {metres(filled.answer.profile.error_m)},
                      moved by {metres(filled.answer.profile.raised_m[0])} at the start and{" "}
                      {metres(filled.answer.profile.raised_m[1])} at the end to meet the plan&rsquo;s places
                      there.
                    </Typography>
                    <Button
                      variant="contained"
                      onClick={() => {
                        if (filled.answer) replace(filled.answer.document);
                        setFilled(null);
                      }}
                    >
                      Use this profile
                    </Button>{" "}
                    <Button onClick={() => setFilled(null)}>Cancel</Button>
                  </>
                )}
              </Box>
            )}
          </Box>
        );
      })}
    </>
  );
}

/** Choose how a line was counted; choosing starts the count. */
function Count({ line, name, onDone }: { line: string; name: string; onDone: () => void }) {
  const { apply } = useEdits();
  return (
    <BareChoice
      name={`Count ${name} by`}
      value=""
      options={[
        { value: "", text: "count by …" },
        ...KINDS.map((kind) => ({ value: kind, text: COUNTED[kind].name })),
      ]}
      onChange={(kind) => {
        apply("distance.new", [{ kind: "add_distance", line, counted: kind as CountedBy }]);
        onDone();
      }}
    />
  );
}

interface CountedProps {
  distance: Distance;
  index: number;
  one: LineLength;
  faults: Fault[];
  edit: Props["edit"];
  onDone: () => void;
}

/** One count of a line: so many pieces, and what is left over. */
function Counted({ distance, index, one, faults, edit, onDone }: CountedProps) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const report = one.counted.find((known) => known.id === distance.id);
  const change = (key: "count" | "each_m" | "over_m") => (value: number) =>
    edit(`distance${index}.${key}`, (draft) => {
      const own = draft.distances?.[index];
      if (own) own[key] = value;
    });
  const field = (key: "count" | "each_m" | "over_m", label: string) => (
    <QuantityField
      label={label}
      family={key === "count" ? "count" : "m"}
      value={distance[key] || null}
      fault={faultAt(faults, `/distances/${index}/${key}`)}
      onDone={onDone}
      onChange={change(key)}
    />
  );
  const what =
    distance.kind === "posts" ? "Spaces between posts" : distance.kind === "rolls" ? "Whole rolls" : "Paces";
  return (
    <Box
      sx={{
        gridColumn: "1 / -1",
        display: "flex",
        flexWrap: "wrap",
        gap: 4,
        alignItems: "end",
        "& > *": { maxWidth: 170 },
      }}
    >
      {(distance.kind === "posts" || distance.kind === "rolls") &&
        field("each_m", COUNTED[distance.kind].each)}
      {distance.kind !== "tape" && distance.kind !== "track" && field("count", what)}
      {field(
        "over_m",
        distance.kind === "tape"
          ? "Along the ground"
          : distance.kind === "track"
            ? "Along the track"
            : "And left over",
      )}
      <span>
        {report &&
          `${quantityText({ value: report.slope_m, unit: "m", digits: 1 }, system)} ± ${quantityText({ value: report.error_m, unit: "m", digits: 1 }, system)}`}
      </span>
      <Cross
        label={`Delete count ${index + 1}`}
        onClick={() => {
          apply("distance.deleted", deleted(distance.id));
          onDone();
        }}
      />
    </Box>
  );
}

interface PaceProps {
  pace: Design["pace"];
  ground: GroundReport;
  faults: Fault[];
  edit: Props["edit"];
  onDone: () => void;
}

/** How long the user's pace is: counted over a known length, or a usual one that is said to be so. */
function Pace({ pace, ground, faults, edit, onDone }: PaceProps) {
  const system = usePreferences((state) => state.system);
  const { length_m: length, error_share: share, is_counted: isCounted } = ground.pace;
  return (
    <Box
      sx={{ display: "flex", flexWrap: "wrap", gap: 4, alignItems: "end", mb: 3, "& > div": { width: 150 } }}
    >
      <QuantityField
        label="Paces counted over"
        family="m"
        value={pace?.over_m ?? null}
        fault={faultAt(faults, "/pace/over_m")}
        onDone={onDone}
        onChange={(value) =>
          edit(
            "pace.over",
            (draft) =>
              void (draft.pace = { over_m: value, counts: draft.pace?.counts ?? [Math.round(value / 0.75)] }),
          )
        }
        onClear={() => edit("pace.over", (draft) => void (draft.pace = null))}
      />
      {(pace?.counts ?? []).map((count, index) => (
        <QuantityField
          key={index}
          label={`Count ${index + 1}`}
          family="count"
          value={count}
          fault={faultAt(faults, `/pace/counts/${index}`)}
          onDone={onDone}
          onChange={(value) =>
            edit(`pace.${index}`, (draft) => {
              if (draft.pace) draft.pace.counts[index] = value;
            })
          }
        />
      ))}
      {pace && (
        <Button
          variant="outlined"
          onClick={() => {
            edit("pace.more", (draft) => void draft.pace?.counts.push(draft.pace.counts.at(-1) ?? 100));
            onDone();
          }}
        >
          Count again
        </Button>
      )}
      <span data-testid="pace">
        {isCounted ? "Your pace" : "A usual pace (not measured)"}:{" "}
        {quantityText({ value: length, unit: "m", digits: 3 }, system)}, good to {figure(share * 100, 0)} %
      </span>
    </Box>
  );
}
