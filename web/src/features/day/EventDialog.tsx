import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useId } from "react";

import type { DayEvent, Design, Fault } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { ClockField } from "../../shared/ClockField";
import { useDefaults } from "../../shared/defaults";
import { faultAt } from "../../shared/faults";
import { named, troughName } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import { clockText, DAY_S, HOUR_S, KINDS } from "./model";

const EVERYTHING = "";
const LASTS = [
  { value: "look", text: "Until the next look, then it is put right" },
  { value: "end", text: "To the end of the run" },
  { value: "until", text: "Until a time" },
];

interface Props {
  document: Design;
  event: DayEvent;
  lengthS: number;
  faults: Fault[];
  change: (recipe: (draft: DayEvent) => void) => void;
  onDone: () => void;
  onDelete: () => void;
  onClose: () => void;
}

/** One event of a run: what, where, when, for how long. Takes effect as it is typed. */
export function EventDialog({ document, event, lengthS, faults, change, onDone, onDelete, onClose }: Props) {
  const id = useId();
  const lists = useDefaults()?.event_at[event.kind] ?? [];
  const index = (document.events ?? []).indexOf(event);
  const fault = (key: string) => faultAt(faults, `/events/${index}/${key}`);
  const take = (recipe: (draft: DayEvent) => void) => {
    change(recipe);
    onDone();
  };
  const lasts = event.until_look ? "look" : event.until_s != null ? "until" : "end";
  return (
    <Dialog open onClose={onClose} aria-labelledby={id}>
      <Box sx={{ p: 5, width: 360, maxWidth: "100%", display: "grid", gap: 3 }} data-testid="event-dialog">
        <Typography id={id} variant="h1">
          {KINDS[event.kind]}
        </Typography>
        {"where" in event && (
          <Choice
            label="Where"
            value={event.where ?? EVERYTHING}
            options={[
              ...(event.kind === "freeze" ? [{ value: EVERYTHING, text: "Every line and outlet" }] : []),
              ...whereOptions(document, event, lists),
            ]}
            onChange={(where) =>
              take((draft) => {
                if (!("where" in draft)) return;
                if (draft.kind === "freeze" && where === EVERYTHING) delete draft.where;
                else draft.where = where;
                if (draft.kind === "split") draft.at_m = Math.min(draft.at_m, lengthOf(document, where));
              })
            }
          />
        )}
        {event.kind === "herd_moved" && (
          <Choice
            label="Drinks at"
            value={event.to}
            options={whereOptions(document, event, ["outlets"])}
            onChange={(to) => take((draft) => void (draft.kind === "herd_moved" && (draft.to = to)))}
          />
        )}
        <When
          name="Begins"
          value={event.at_s}
          lengthS={lengthS}
          fault={fault("at_s")}
          onChange={(at) =>
            take((draft) => {
              draft.at_s = at;
              if (draft.until_s != null && draft.until_s <= at) draft.until_s = at + HOUR_S;
            })
          }
        />
        <Choice
          label="Lasts"
          value={lasts}
          options={LASTS}
          onChange={(value) =>
            take((draft) => {
              delete draft.until_s;
              delete draft.until_look;
              if (value === "look") draft.until_look = true;
              if (value === "until") draft.until_s = draft.at_s + HOUR_S;
            })
          }
        />
        {event.until_s != null && (
          <When
            name="Ends"
            value={event.until_s}
            lengthS={lengthS}
            fault={fault("until_s")}
            onChange={(at) => take((draft) => void (draft.until_s = Math.max(at, draft.at_s + 60)))}
          />
        )}
        <Figures event={event} change={change} onDone={onDone} fault={fault} />
        <Box sx={{ display: "flex", gap: 3 }}>
          <Button variant="contained" onClick={onClose}>
            Close
          </Button>
          <Button onClick={onDelete}>Delete</Button>
        </Box>
      </Box>
    </Dialog>
  );
}

function Figures({
  event,
  change,
  onDone,
  fault,
}: Pick<Props, "event" | "change" | "onDone"> & { fault: (key: string) => string | undefined }) {
  const shared = { onDone };
  switch (event.kind) {
    case "partly_blocked":
      return (
        <QuantityField
          {...shared}
          label="Still open (%)"
          family="count"
          value={100 * (event.left ?? 0.3)}
          fault={fault("left")}
          onChange={(left) =>
            change((draft) => void (draft.kind === event.kind && (draft.left = left / 100)))
          }
        />
      );
    case "split":
      return (
        <>
          <QuantityField
            {...shared}
            label="From the start of the line"
            family="m"
            value={event.at_m}
            fault={fault("at_m")}
            onChange={(at) => change((draft) => void (draft.kind === event.kind && (draft.at_m = at)))}
          />
          <QuantityField
            {...shared}
            label="Hole"
            family="mm"
            digits={1}
            value={event.hole_mm ?? 6}
            fault={fault("hole_mm")}
            onChange={(hole) => change((draft) => void (draft.kind === event.kind && (draft.hole_mm = hole)))}
          />
        </>
      );
    case "tap_open":
      return (
        <QuantityField
          {...shared}
          label="Bore of the tap"
          family="mm"
          digits={1}
          value={event.bore_mm ?? 12}
          fault={fault("bore_mm")}
          onChange={(bore) => change((draft) => void (draft.kind === event.kind && (draft.bore_mm = bore)))}
        />
      );
    case "leak":
      return (
        <QuantityField
          {...shared}
          label="Leaks"
          family="L/min"
          value={event.flow_lpm ?? 1}
          fault={fault("flow_lpm")}
          onChange={(flow) => change((draft) => void (draft.kind === event.kind && (draft.flow_lpm = flow)))}
        />
      );
    case "hot_spell":
      return (
        <QuantityField
          {...shared}
          label="Air"
          family="°C"
          value={event.air_c ?? 35}
          fault={fault("air_c")}
          onChange={(air) => change((draft) => void (draft.kind === event.kind && (draft.air_c = air)))}
        />
      );
    default:
      return null;
  }
}

interface WhenProps {
  name: string;
  value: number;
  lengthS: number;
  fault: string | undefined;
  onChange: (timeS: number) => void;
}

/** A day and a time of day. */
function When({ name, value, lengthS, fault, onChange }: WhenProps) {
  const day = Math.floor(value / DAY_S);
  const days = Math.max(1, Math.ceil(lengthS / DAY_S), day + 1);
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: days > 1 ? "1fr 1fr" : "1fr", gap: 3 }}>
      {days > 1 && (
        <Choice
          label="Day"
          value={String(day)}
          options={Array.from({ length: days }, (_, one) => ({ value: String(one), text: `Day ${one + 1}` }))}
          onChange={(one) => onChange(Number(one) * DAY_S + (value % DAY_S))}
        />
      )}
      <ClockField
        label={name}
        value={clockText(value % DAY_S)}
        fault={fault}
        onChange={(clock) => {
          const [hours, minutes] = (clock ?? "").split(":").map(Number);
          if (hours === undefined || minutes === undefined || Number.isNaN(hours + minutes)) return;
          onChange(day * DAY_S + hours * HOUR_S + minutes * 60);
        }}
      />
    </Box>
  );
}

const lengthOf = (document: Design, lineId: string): number => {
  const line = document.lines?.find((one) => one.id === lineId);
  return line?.length_m ?? (line?.runs ?? []).reduce((whole, run) => whole + run.length_m, 0);
};

function whereOptions(document: Design, event: DayEvent, lists: readonly string[]) {
  const parts = {
    places: document.places,
    vessels: document.vessels,
    lines: document.lines,
    outlets: document.outlets,
    inflows: document.inflows,
    pressure_sources: document.pressure_sources,
    herds: document.herds,
  };
  return lists
    .flatMap((list) => {
      const found: { id: string; name?: string | null }[] = parts[list as keyof typeof parts] ?? [];
      const floats = event.kind === "stuck_open" && list === "outlets";
      return found
        .filter(
          (part) =>
            !floats || document.outlets?.some((one) => one.id === part.id && one.kind === "float_valve"),
        )
        .map((part) => ({
          value: part.id,
          text: list === "outlets" ? `${named(part)} (${troughName(document, part.id)})` : named(part),
          group:
            lists.length > 1
              ? list === "outlets"
                ? "Outlets"
                : list === "lines"
                  ? "Lines"
                  : "Places"
              : undefined,
        }));
    })
    .map(({ group, ...option }) => (group ? { ...option, group } : option));
}
