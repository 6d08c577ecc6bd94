import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Catalogue, DesignEdit, Fault, Vessel } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { Cross } from "../../shared/DeleteButton";
import { useEdits } from "../../shared/edits";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { PAIR } from "./edit";

type ShapeKind = Extract<DesignEdit, { kind: "set_shape" }>["shape"];
type Stages = Extract<Vessel["shape"], { kind: "stage_volume" }>;

const KINDS: { value: ShapeKind; text: string }[] = [
  { value: "upright_cylinder", text: "upright cylinder" },
  { value: "box", text: "box" },
  { value: "lying_cylinder", text: "lying cylinder" },
  { value: "frustum", text: "tapered (round tub)" },
  { value: "stage_volume", text: "measured: volume by level" },
];

const SIDES: Record<string, string> = {
  length_m: "Inside length",
  width_m: "Inside width",
  height_m: "Inside height",
  diameter_m: "Inside diameter",
  bottom_diameter_m: "Diameter at floor",
  top_diameter_m: "Diameter at rim",
};

interface Props {
  vessel: Vessel;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  path: string;
  change: (key: string, recipe: (draft: Vessel) => void) => void;
  onDone: () => void;
}

/** Shape, size and number of a vessel: typed, or from the catalogue. */
export function ShapeFields({ vessel, catalogue, faults, path, change, onDone }: Props) {
  const { apply } = useEdits();
  const { shape } = vessel;
  const sides = Object.entries(SIDES).filter(([key]) => key in shape) as [keyof typeof shape, string][];
  const trough = vessel.role === "trough";
  const sold = (catalogue?.vessels ?? []).filter((one) => (one.role === "trough") === trough);
  const count = vessel.count ?? 1;
  const make = (edits: DesignEdit[]) => {
    apply(`${vessel.id}.shape`, edits);
    onDone();
  };
  return (
    <Box sx={PAIR}>
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Choice
          label="From the catalogue"
          value={sold.some((one) => one.product_id === vessel.product) ? (vessel.product ?? "") : ""}
          options={[
            { value: "", text: "own dimensions" },
            ...sold.map((one) => ({ value: one.product_id, text: one.name })),
          ]}
          onChange={(id) => {
            const product = sold.find((one) => one.product_id === id);
            if (product) make([{ kind: "set_vessel", vessel: vessel.id, product }]);
            else {
              change("product", (draft) => void (draft.product = null));
              onDone();
            }
          }}
        />
      </Box>
      <Choice
        label="Shape"
        value={shape.kind}
        options={KINDS}
        onChange={(kind) => make([{ kind: "set_shape", vessel: vessel.id, shape: kind as ShapeKind }])}
      />
      {sides.map(([key, label]) => (
        <QuantityField
          key={key}
          label={label}
          family="m"
          digits={2}
          value={Number(shape[key])}
          fault={faultAt(faults, `${path}/shape/${key}`)}
          onDone={onDone}
          onChange={(value) =>
            change("shape", (draft) => {
              Object.assign(draft.shape, { [key]: value });
              draft.product = null;
            })
          }
        />
      ))}
      {shape.kind === "stage_volume" && <StageFields {...{ shape, faults, path, change, onDone }} />}
      <QuantityField
        label="Number, linked"
        family="count"
        value={count}
        hint={count > 1 ? "all at one level" : undefined}
        fault={faultAt(faults, `${path}/count`)}
        onDone={onDone}
        onChange={(value) => change("count", (draft) => void (draft.count = Math.round(value)))}
      />
      {count > 1 && (
        <QuantityField
          label="Link pipe bore"
          family="mm"
          digits={0}
          value={vessel.link_mm ?? null}
          hint={vessel.link_mm == null ? "unknown: not judged" : undefined}
          fault={faultAt(faults, `${path}/link_mm`)}
          onDone={onDone}
          onChange={(value) => change("link_mm", (draft) => void (draft.link_mm = value))}
          onClear={() => change("link_mm", (draft) => void (draft.link_mm = null))}
        />
      )}
    </Box>
  );
}

/** What it holds at each level, as it was measured. */
function StageFields({
  shape,
  faults,
  path,
  change,
  onDone,
}: Pick<Props, "faults" | "path" | "change" | "onDone"> & { shape: Stages }) {
  const set = (key: string, recipe: (stages: number[][]) => void) =>
    change(key, (draft) => {
      if (draft.shape.kind === "stage_volume") recipe(draft.shape.stages);
    });
  const fault = faultAt(faults, `${path}/shape/stages`);
  return (
    <Box sx={{ gridColumn: "1 / -1", display: "grid", gap: 1 }}>
      {shape.stages.slice(1).map(([level = 0, litres = 0], index) => (
        <Box
          key={index}
          sx={{ display: "grid", gridTemplateColumns: "1fr 1fr auto", columnGap: 3, alignItems: "start" }}
        >
          <QuantityField
            label={`Level ${index + 1}`}
            family="m"
            digits={2}
            value={level}
            fault={fault}
            onDone={onDone}
            onChange={(value) =>
              set(`stage${index}.level`, (stages) => void ((stages[index + 1] ?? [])[0] = value))
            }
          />
          <QuantityField
            label={`Holds ${index + 1}`}
            family="L"
            digits={0}
            value={litres}
            onDone={onDone}
            onChange={(value) =>
              set(`stage${index}.litres`, (stages) => void ((stages[index + 1] ?? [])[1] = value))
            }
          />
          {shape.stages.length > 2 && (
            <Cross
              label={`Delete level ${index + 1}`}
              onClick={() => {
                set("stage.gone", (stages) => void stages.splice(index + 1, 1));
                onDone();
              }}
            />
          )}
        </Box>
      ))}
      <Button
        sx={{ justifySelf: "start", p: 0 }}
        onClick={() => {
          set("stage.new", (stages) => {
            const [level = 0, litres = 0] = stages.at(-1) ?? [];
            stages.push([Number((level * 1.1).toFixed(3)), Math.round(litres * 1.1)]);
          });
          onDone();
        }}
      >
        Add level
      </Button>
    </Box>
  );
}
