import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { fitInLine } from "../../api/client";
import type { Catalogue, Design, FittingProduct, Line, PartProduct } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { placeOfPart } from "../../shared/ground";
import { INLINE_NAMES } from "../../shared/InlineGlyph";
import { named } from "../../shared/names";
import { priceText } from "../../shared/price";
import { QuantityField } from "../../shared/QuantityField";
import { figure, shownUnit, toShown, type System } from "../../shared/units";
import { usePreferences } from "../../shared/preferences";
import { standing } from "../../shared/standing";
import type { Edit } from "./edit";

interface Props {
  document: Design;
  index: number;
  catalogue: Catalogue | undefined;
  edit: Edit;
  onDone: () => void;
}

/** Where a part goes that nobody placed: at the start of its line [m]. */
const FIRST_AT_M = 0.5;

const PART_WORDS: Record<string, string> = {
  isolating_valve: "Stopcocks",
  tap_point: "Tap points",
  filter: "Filters",
  check_valve: "Check valves",
  foot_valve: "Foot valves",
  reducer: "Pressure reducers",
  vent: "Air vents",
  drain: "Drains",
};

/** What sits in a line: fittings with their count, parts with their place; more from the catalogue. */
export function LineParts({ document, index, catalogue, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [nextM, setNextM] = useState(FIRST_AT_M);
  const line = document.lines?.[index];
  if (!line) return null;
  const currency = document.site.currency ?? "USD";
  const change = (key: string, recipe: (own: Line) => void) =>
    edit(`${line.id}.${key}`, (draft) => {
      const own = draft.lines?.[index];
      if (own) recipe(own);
    });
  const nameOf = (product: string | null | undefined) =>
    [...(catalogue?.fittings ?? []), ...(catalogue?.parts ?? [])].find((one) => one.product_id === product)
      ?.name;
  const add = async (product: { fitting: FittingProduct } | { part: PartProduct }) => {
    setTrouble(null);
    try {
      const fitted = await fitInLine(document, line.id, product);
      change("fitted", (own) => {
        if (fitted.fitting) own.fittings = [...(own.fittings ?? []), fitted.fitting];
        if (fitted.part) own.inline = [...(own.inline ?? []), { ...fitted.part, at_m: nextM }];
      });
      onDone();
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Box
      component="fieldset"
      aria-label="Fittings and parts"
      sx={{ border: 0, p: 0, m: 0, display: "grid", gap: 2 }}
    >
      {(line.fittings ?? []).map((fitting, number) => (
        <Entry
          key={`fitting-${number}`}
          name={nameOf(fitting.product) ?? `Fitting, K ${fitting.k ?? 0}`}
          onGone={() => {
            change("fittings", (own) => void own.fittings?.splice(number, 1));
            onDone();
          }}
        >
          <QuantityField
            label="How many"
            family="count"
            value={fitting.count ?? 1}
            onDone={onDone}
            onChange={(value) =>
              change(`fitting${number}`, (own) => {
                const one = own.fittings?.[number];
                if (one && value >= 1) one.count = Math.round(value);
              })
            }
          />
        </Entry>
      ))}
      {(line.inline ?? []).map((part, number) => (
        <Entry
          key={`part-${number}`}
          name={nameOf(part.product) ?? INLINE_NAMES[part.kind]}
          onGone={() => {
            change("inline", (own) => void own.inline?.splice(number, 1));
            onDone();
          }}
        >
          <QuantityField
            label="Along the line"
            family="m"
            digits={1}
            value={part.at_m}
            onDone={onDone}
            onChange={(value) =>
              change(`inline${number}`, (own) => {
                const one = own.inline?.[number];
                if (one) one.at_m = Math.max(0, value);
              })
            }
          />
        </Entry>
      ))}
      <Choice
        label="Add a fitting"
        value=""
        options={[
          { value: "", text: "choose …" },
          ...(catalogue?.fittings ?? []).map((one) => ({
            value: one.product_id,
            text: offered(one, currency, system),
            group: one.source_id === "own" ? "Yours" : groupOf(one.product_id),
          })),
        ]}
        onChange={(id) => {
          const fitting = catalogue?.fittings.find((one) => one.product_id === id);
          if (fitting) void add({ fitting });
        }}
      />
      <QuantityField
        label="Place the next part at"
        family="m"
        digits={1}
        value={nextM}
        hint={`${placeOf(line.from, document)} is 0; drag it on the profile or the plan later`}
        onChange={(value) => setNextM(Math.min(Math.max(value, 0), line.length_m ?? value))}
      />
      <Choice
        label="Add a part"
        value=""
        options={[
          { value: "", text: "choose …" },
          ...(catalogue?.parts ?? []).map((one) => ({
            value: one.product_id,
            text: offered(one, currency, system),
            group: PART_WORDS[one.kind] ?? one.kind,
          })),
        ]}
        onChange={(id) => {
          const part = catalogue?.parts.find((one) => one.product_id === id);
          if (part) void add({ part });
        }}
      />
      {trouble && (
        <Typography role="alert" color="error">
          {trouble}
        </Typography>
      )}
    </Box>
  );
}

/** What a line begins at is called. */
function placeOf(id: string, document: Design): string {
  const part = standing(document).find((one) => one.id === id);
  return named(part ?? placeOfPart(document, id) ?? { id });
}

function Entry({ name, onGone, children }: { name: string; onGone: () => void; children: React.ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) 84px auto", gap: 2, alignItems: "end" }}>
      <Typography variant="body2">{name}</Typography>
      {children}
      <Button sx={{ p: 0, minWidth: 24 }} aria-label={`Delete ${name}`} onClick={onGone}>
        ×
      </Button>
    </Box>
  );
}

function offered(one: FittingProduct | PartProduct, currency: string, system: System): string {
  const bore = one.bore_mm
    ? `${figure(toShown(one.bore_mm, "mm", system), system === "metric" ? 1 : 3)} ${shownUnit("mm", system)} bore`
    : "";
  return [one.name, bore, one.price === null || one.price === undefined ? "" : priceText(one.price, currency)]
    .filter(Boolean)
    .join(" · ");
}

const groupOf = (id: string): string =>
  id.startsWith("insert") || id.startsWith("hose") || id.startsWith("micro")
    ? "Barbed inserts"
    : id.startsWith("compression") || id.startsWith("saddle")
      ? "Compression and saddles"
      : "Bends, tees and valves by size of the pipe";
