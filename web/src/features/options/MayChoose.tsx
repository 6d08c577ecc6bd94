import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";

import type { Design } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { nameOfPart } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import { sizingOf } from "./sizing";

const RISE_M = 1; // to begin with; ours

interface Props {
  document: Design;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** What may be chosen: pipes always, valves and stands where that is allowed, and what stays as it is. */
export function MayChoose({ document, edit, onDone }: Props) {
  const sizing = document.sizing ?? {};
  const stands = sizing.stands ?? [];
  const filled = new Set((document.outlets ?? []).map((outlet) => outlet.fills));
  const tanks = (document.vessels ?? []).filter(
    (vessel) => !filled.has(vessel.id) && !stands.some((stand) => stand.vessel === vessel.id),
  );
  const tick = (key: "laid" | "parts" | "split" | "valves", on: boolean) =>
    edit(key, (draft) => void (sizingOf(draft)[key] = on));
  return (
    <section aria-label="May be chosen">
      <Typography variant="h2" sx={{ mt: 4 }}>
        What may be chosen
      </Typography>
      <Typography sx={{ fontSize: 13 }}>
        The pipe of every line, among those of its family that hold its pressure and have a price.
      </Typography>
      <Box sx={{ display: "flex", flexDirection: "column" }}>
        <FormControlLabel
          label="What is laid costs nothing: the cheapest change"
          control={<Checkbox size="small" checked={!!sizing.laid} onChange={(_, on) => tick("laid", on)} />}
        />
        <FormControlLabel
          label="Float valves too"
          control={
            <Checkbox size="small" checked={!!sizing.valves} onChange={(_, on) => tick("valves", on)} />
          }
        />
        <FormControlLabel
          label="Filters, air vents and reducers too"
          control={<Checkbox size="small" checked={!!sizing.parts} onChange={(_, on) => tick("parts", on)} />}
        />
        <FormControlLabel
          label="A line may be of two pipes"
          control={<Checkbox size="small" checked={!!sizing.split} onChange={(_, on) => tick("split", on)} />}
        />
      </Box>
      {stands.map((stand, index) => (
        <Box
          key={stand.vessel}
          role="group"
          aria-label={`Stand of ${nameOfPart(document, stand.vessel)}`}
          sx={{
            display: "grid",
            gridTemplateColumns: "1fr 100px 110px auto",
            gap: 3,
            alignItems: "end",
            my: 1,
          }}
        >
          <span>{nameOfPart(document, stand.vessel)}</span>
          <QuantityField
            label="Higher by"
            family="m"
            digits={2}
            value={stand.most_m}
            onChange={(most) =>
              edit(`stand ${index}`, (draft) => {
                const own = draft.sizing?.stands?.[index];
                if (own) own.most_m = most;
              })
            }
            onDone={onDone}
          />
          <QuantityField
            label={`${document.site.currency ?? "USD"} a metre`}
            family="count"
            value={stand.price_per_m ?? null}
            hint={stand.price_per_m == null ? "by Parts, Costs" : undefined}
            onClear={() =>
              edit(`stand price ${index}`, (draft) => void delete draft.sizing?.stands?.[index]?.price_per_m)
            }
            onChange={(price) =>
              edit(`stand price ${index}`, (draft) => {
                const own = draft.sizing?.stands?.[index];
                if (own) own.price_per_m = price;
              })
            }
            onDone={onDone}
          />
          <Button
            size="small"
            onClick={() => edit("no stand", (draft) => void draft.sizing?.stands?.splice(index, 1))}
          >
            Remove
          </Button>
        </Box>
      ))}
      {tanks.length > 0 && (
        <Choice
          label="A tank that may stand higher"
          value=""
          options={[
            { value: "", text: "choose …" },
            ...tanks.map((vessel) => ({ value: vessel.id, text: nameOfPart(document, vessel.id) })),
          ]}
          onChange={(vessel) =>
            edit("stand", (draft) => {
              const own = sizingOf(draft);
              own.stands = [...(own.stands ?? []), { vessel, most_m: RISE_M }];
              own.keep = (own.keep ?? []).filter((one) => one !== vessel);
            })
          }
        />
      )}
      {stands.length > 0 && (
        <Caution>
          A raised tank of a cubic metre weighs over a tonne: have its stand and the ground under it checked
          by someone qualified. Where no price of a metre is given, it is that of Costs under Parts, by what
          the tank weighs.
        </Caution>
      )}
    </section>
  );
}
