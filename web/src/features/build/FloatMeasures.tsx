import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { Choice } from "../../shared/Choice";
import { Cross } from "../../shared/DeleteButton";
import { faultAt } from "../../shared/faults";
import { Folded } from "../../shared/Folded";
import { NameField } from "../../shared/NameField";
import { nameOfPart } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import {
  mounted,
  THINGS,
  thingChanged,
  valveOf,
  vesselChanged,
  type FloatsSet,
  type MountLength,
  type Thing,
} from "./floats";
import type { BuildProps } from "./Build";

type Setting = FloatsSet["settings"][number];

const FIELDS = {
  display: "grid",
  gridTemplateColumns: "repeat(auto-fill, minmax(130px, 1fr))",
  gap: 3,
  my: 2,
};
const LENGTHS: readonly { key: MountLength; text: string }[] = [
  { key: "float_mm", text: "Float across" },
  { key: "arm_mm", text: "Pin to float's middle" },
  { key: "pin_mm", text: "Pin from the wall" },
  { key: "aside_mm", text: "Hole from the wall on its left" },
];

/** What is measured on a vessel and its floats: closing level, float and arm, open holes, what stands in it. */
export function FloatMeasures(props: BuildProps & { setting: Setting }) {
  const { setting } = props;
  return (
    <Folded title="Measured">
      {setting.floats.map((one) => (
        <OneFloat key={one.outlet} {...props} id={one.outlet} several={setting.floats.length > 1} />
      ))}
      <OneVessel {...props} id={setting.vessel} />
    </Folded>
  );
}

function OneFloat({
  document,
  id,
  several,
  faults,
  edit,
  onDone,
}: BuildProps & { id: string; several: boolean }) {
  const valve = valveOf(document, id);
  const index = document.outlets?.findIndex((one) => one.id === id) ?? -1;
  const name = nameOfPart(document, id);
  if (!valve) return null;
  const mount = valve.mount ?? { wall: "end" as const };
  const set = (key: string, change: Parameters<typeof mounted>[2]) =>
    edit(`${id}.mount.${key}`, (draft) => mounted(draft, id, change));
  return (
    <Box sx={FIELDS} role="group" aria-label={`Measures of ${name}`}>
      {several && <Box sx={{ gridColumn: "1 / -1", fontWeight: 700 }}>{name}</Box>}
      <QuantityField
        label="Closes at"
        name={`${name} closes at`}
        family="m"
        digits={3}
        value={valve.valve.closes_at_m}
        fault={faultAt(faults, `/outlets/${index}/valve/closes_at_m`)}
        onDone={onDone}
        onChange={(value) =>
          edit(`${id}.closes_at_m`, (draft) => {
            const own = valveOf(draft, id);
            if (own) own.valve.closes_at_m = value;
          })
        }
      />
      {LENGTHS.map(({ key, text }) => (
        <QuantityField
          key={key}
          label={text}
          name={`${text} of ${name}`}
          family="mm"
          value={mount[key] ?? null}
          fault={faultAt(faults, `/outlets/${index}/mount/${key}`)}
          onDone={onDone}
          onChange={(value) => set(key, { [key]: value })}
          onClear={() => set(key, { [key]: null })}
        />
      ))}
      <Choice
        label="Through"
        value={mount.wall ?? "end"}
        options={[
          { value: "end", text: "an end" },
          { value: "side", text: "a long side" },
        ]}
        onChange={(wall) => set("wall", { wall: wall === "side" ? "side" : "end" })}
      />
      <Choice
        label="Kept from stock"
        value={mount.guard ?? ""}
        options={[
          { value: "", text: "not said" },
          { value: "open", text: "by nothing" },
          { value: "guarded", text: "by a guard" },
          { value: "enclosed", text: "in its own chamber" },
        ]}
        onChange={(guard) =>
          set("guard", { guard: (guard || null) as "open" | "guarded" | "enclosed" | null })
        }
      />
    </Box>
  );
}

function OneVessel({ document, id, faults, edit, onDone }: BuildProps & { id: string }) {
  const index = document.vessels?.findIndex((one) => one.id === id) ?? -1;
  const vessel = document.vessels?.[index];
  const name = nameOfPart(document, id);
  if (!vessel) return null;
  const change = (key: string, recipe: Parameters<typeof vesselChanged>[2]) =>
    edit(`${id}.${key}`, (draft) => vesselChanged(draft, id, recipe));
  const thing = (at: number, key: keyof Thing, value: number | string | null) =>
    edit(`${id}.inside.${at}.${key}`, (draft) => thingChanged(draft, id, at, { [key]: value }));
  const number = (
    at: number,
    own: Thing,
    key: "needs_m" | "from_wall_m" | "wide_m" | "top_m",
    text: string,
  ) => (
    <QuantityField
      label={text}
      name={`${text} of ${own.name ?? own.kind} in ${name}`}
      family="m"
      digits={3}
      value={own[key] ?? null}
      fault={faultAt(faults, `/vessels/${index}/inside/${at}/${key}`)}
      onDone={onDone}
      onChange={(value) => thing(at, key, value)}
      onClear={() => thing(at, key, null)}
    />
  );
  return (
    <Box role="group" aria-label={`Measures of ${name}`}>
      <Box sx={FIELDS}>
        <QuantityField
          label="Lowest cable or hand hole"
          name={`Lowest cable or hand hole of ${name}`}
          family="m"
          digits={3}
          value={vessel.cable_m ?? null}
          fault={faultAt(faults, `/vessels/${index}/cable_m`)}
          onDone={onDone}
          onChange={(value) => change("cable_m", (own) => (own.cable_m = value))}
          onClear={() => change("cable_m", (own) => delete own.cable_m)}
        />
      </Box>
      {(vessel.inside ?? []).map((own, at) => (
        <Box key={at} sx={FIELDS} role="group" aria-label={`${own.name ?? own.kind} in ${name}`}>
          <Choice
            label="In it"
            value={own.kind}
            options={[...THINGS]}
            onChange={(kind) => thing(at, "kind", kind)}
          />
          {number(at, own, "needs_m", "Needs water up to")}
          {number(at, own, "from_wall_m", "From the valve's wall")}
          {number(at, own, "wide_m", "Wide")}
          {number(at, own, "top_m", "Top over the floor")}
          <Cross
            label={`Delete ${own.name ?? own.kind} in ${name}`}
            onClick={() => change("inside", (draft) => draft.inside?.splice(at, 1))}
          />
        </Box>
      ))}
      {(vessel.taps ?? []).map((own, at) => (
        <Box key={at} sx={FIELDS} role="group" aria-label={`${own.name} in the wall of ${name}`}>
          <NameField
            label="In its wall"
            value={own.name}
            placeholder="Drain"
            onChange={(text) =>
              change(`taps.${at}.name`, (draft) => {
                const tap = draft.taps?.[at];
                if (tap && text) tap.name = text;
              })
            }
          />
          <QuantityField
            label="Over the floor"
            name={`${own.name} of ${name} over the floor`}
            family="m"
            digits={3}
            value={own.at_m}
            fault={faultAt(faults, `/vessels/${index}/taps/${at}/at_m`)}
            onDone={onDone}
            onChange={(value) =>
              change(`taps.${at}.at_m`, (draft) => {
                const tap = draft.taps?.[at];
                if (tap) tap.at_m = value;
              })
            }
          />
          <Cross
            label={`Delete ${own.name} of ${name}`}
            onClick={() => change("taps", (draft) => draft.taps?.splice(at, 1))}
          />
        </Box>
      ))}
      <Button
        onClick={() =>
          change(
            "inside",
            (draft) => (draft.inside = [...(draft.inside ?? []), { kind: "basket", bottom_m: 0 }]),
          )
        }
      >
        Add something that stands in it
      </Button>
      <Button
        onClick={() =>
          change("taps", (draft) => (draft.taps = [...(draft.taps ?? []), { name: "Drain", at_m: 0.03 }]))
        }
      >
        Add a drain or tap in its wall
      </Button>
    </Box>
  );
}
