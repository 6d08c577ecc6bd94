import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Catalogue, Design, Line } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { useEdits } from "../../shared/edits";
import { usePreferences } from "../../shared/preferences";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { figure, quantityText, shownUnit, toShown, type System } from "../../shared/units";
import { placeOfPart } from "../../shared/ground";
import { Folded } from "../../shared/Folded";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { wayLength, wayOf } from "../../shared/way";
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
          <PartNameField
            value={named(line)}
            onDone={onDone}
            onChange={(name) => change("name", (own) => void (own.name = name))}
          />
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
          hint={drawnText(document, line, system)}
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
        <InCase document={document} id={line.id} edit={edit} onDone={onDone} />
        <PipeHeat document={document} faults={faults} edit={edit} onDone={onDone} />
      </Box>
      <Folded title="Fittings and parts" open>
        <LineParts {...{ document, index, catalogue, edit, onDone }} />
      </Folded>
      {(line.points ?? []).length > 0 && (
        <Folded title="Ground along it">
          <Box sx={PAIR}>
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
        </Folded>
      )}
      <Caution>Before any digging have buried cables and pipes located.</Caution>
    </>
  );
}

/** How long the pipe is as it is drawn, where what is typed is another length. */
function drawnText(document: Design, line: Line, system: System): string | undefined {
  const way = wayOf(document, line);
  const rise =
    (placeOfPart(document, line.from)?.ground_m ?? 0) - (placeOfPart(document, line.to)?.ground_m ?? 0);
  const drawn = Math.hypot(wayLength(way), rise);
  if (!line.length_m || Math.abs(drawn - line.length_m) < ALIKE * drawn) return undefined;
  const text = quantityText({ value: drawn, unit: "m", digits: 0 }, system);
  return line.length_m > drawn
    ? `drawn: ${text}; the rest is slack and uneven ground`
    : `drawn: ${text}, which is longer: check the length or the place of its ends`;
}

/** Two lengths that differ by less than this share are the same. */
const ALIKE = 0.01;

function pipeOptions(catalogue: Catalogue | undefined, now: string | null | undefined) {
  const listed = (catalogue?.pipes ?? []).map((pipe) => ({
    value: pipe.id,
    text: pipe.name,
    group: pipe.family,
  }));
  if (now && listed.some((option) => option.value === now)) return listed;
  return [{ value: now ?? "", text: now ?? "by its own bore", group: "This plan" }, ...listed];
}
