import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Catalogue } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { useEdits } from "../../shared/edits";
import { usePreferences } from "../../shared/preferences";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { figure, quantityText, shownUnit, toShown } from "../../shared/units";
import { Assumed, noLongerAssumed } from "./Assumed";
import { lazyPart } from "../../shared/lazyPart";
import { InCase } from "./InCase";
import { PipeHeat } from "./PipeHeat";
import { LineParts } from "./LineParts";
import { LineTold } from "./Told";
import { PAIR, type SheetProps } from "./edit";

const PipeChoices = lazyPart(async () => (await import("../choose")).PipeChoices);

/** A line's figures: what pipe, how long, and the ground along it. */
export function LineSheet({
  document,
  analysis,
  catalogue,
  faults,
  edit,
  onDone,
  onTry,
  index,
}: SheetProps & { index: number }) {
  const { apply } = useEdits();
  const [comparing, setComparing] = useState(false);
  const system = usePreferences((state) => state.system);
  const line = document.lines?.[index];
  if (!line) return null;
  const path = `/lines/${index}`;
  const product = catalogue?.pipes.find((pipe) => pipe.id === line.product);
  const change = (
    key: string,
    recipe: (own: NonNullable<typeof document.lines>[number], draft: typeof document) => void,
  ) =>
    edit(`${line.id}.${key}`, (draft) => {
      const own = draft.lines?.[index];
      if (!own) return;
      recipe(own, draft);
      noLongerAssumed(own, key);
    });
  const bore =
    product &&
    `${figure(toShown(product.bore_mm, "mm", system), system === "metric" ? 1 : 3)} ${shownUnit("mm", system)}`;
  return (
    <>
      <Assumed part={line} kind="lines" edit={edit} onDone={onDone} />
      <LineTold id={line.id} analysis={analysis} />
      <Box sx={PAIR}>
        <Box sx={{ gridColumn: "1 / -1" }}>
          <InCase document={document} id={line.id} edit={edit} onDone={onDone} />
        </Box>
        <Box sx={{ gridColumn: "1 / -1" }}>
          <Choice
            label="Pipe"
            value={line.product ?? ""}
            options={pipeOptions(catalogue, line.product)}
            hint={
              product &&
              `bore ${bore ?? ""}, ${product.class_kpa === null ? "class not known" : `rated for ${quantityText({ value: product.class_kpa, unit: "kPa" }, system)} at 20 °C`} · ${product.source}`
            }
            onChange={(value) => {
              const pipe = catalogue?.pipes.find((one) => one.id === value);
              if (pipe)
                apply(`${line.id}.product`, [{ kind: "set_pipe", line: line.id, product: pipe.product }]);
              onDone();
            }}
          />
        </Box>
        <Box sx={{ gridColumn: "1 / -1" }}>
          <Button variant="outlined" onClick={() => setComparing(true)}>
            Compare pipes …
          </Button>
          {comparing && (
            <PipeChoices {...{ document, index, catalogue, onTry }} onLeave={() => setComparing(false)} />
          )}
        </Box>
        <QuantityField
          label="Length of pipe"
          family="m"
          digits={1}
          value={line.length_m ?? null}
          fault={faultAt(faults, `${path}/length_m`)}
          onDone={onDone}
          onChange={(value) =>
            apply(`${line.id}.length`, [{ kind: "set_length", line: line.id, length_m: value }])
          }
        />
        <QuantityField
          label="Burial depth"
          family="m"
          digits={2}
          value={line.cover_m ?? 0}
          fault={faultAt(faults, `${path}/cover_m`)}
          onDone={onDone}
          onChange={(value) => change("cover", (draft) => void (draft.cover_m = value))}
        />
        <Choice
          label="Airtight and primed"
          value={line.siphon ? "siphon" : ""}
          options={[
            { value: "", text: "no: suction draws air in" },
            { value: "siphon", text: "yes: a siphon" },
          ]}
          onChange={(value) => {
            change("siphon", (own) => void (own.siphon = value === "siphon"));
            onDone();
          }}
        />
        <PipeHeat document={document} faults={faults} edit={edit} onDone={onDone} />
      </Box>
      {(line.points ?? []).length > 0 && (
        <Box component="fieldset" sx={{ ...PAIR, border: 0, p: 0, m: 0, mt: 2 }}>
          <Box component="legend" sx={{ fontWeight: 700, p: 0, mb: 1 }}>
            Ground along it
          </Box>
          {(line.points ?? []).map(([at = 0, ground = 0], point) => (
            <QuantityField
              key={point}
              label={`Ground at ${figure(toShown(at, "m", system), 0)} ${shownUnit("m", system)}`}
              family="m"
              digits={2}
              value={ground}
              fault={faultAt(faults, `${path}/points`)}
              onDone={onDone}
              onChange={(value) =>
                apply(`${line.id}.point${point}`, [
                  { kind: "set_point_ground", line: line.id, index: point, ground_m: value },
                ])
              }
            />
          ))}
        </Box>
      )}
      <LineParts {...{ document, index, catalogue, edit, onDone }} />
      <Caution>Before any digging have buried cables and pipes located.</Caution>
    </>
  );
}

function pipeOptions(catalogue: Catalogue | undefined, now: string | null | undefined) {
  const listed = (catalogue?.pipes ?? []).map((pipe) => ({
    value: pipe.id,
    text: pipe.name,
    group: pipe.family,
  }));
  if (now && listed.some((option) => option.value === now)) return listed;
  return [{ value: now ?? "", text: now ?? "by its own bore", group: "This plan" }, ...listed];
}
