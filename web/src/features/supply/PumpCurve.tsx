import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Design, Fault, Inflow } from "../../api/types";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { useEdits } from "../../shared/edits";

type Pump = Extract<Inflow, { kind: "pump" }>;

interface Props {
  pump: Pump;
  index: number;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** A pump by its curve: flows and the heads it lifts them to, and the lift it works against. */
export function PumpCurve({ pump, index, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const curve = pump.curve ?? [];
  const put = (key: string, made: Pump) =>
    edit(`inflow${index}.${key}`, (draft) => {
      if (draft.inflows?.[index]) draft.inflows[index] = made;
    });
  const setPoint = (at: number, part: 0 | 1, value: number) =>
    put(`curve${at}${part}`, {
      ...pump,
      curve: curve.map((point, number) =>
        number === at ? (part ? [point[0] ?? 0, value] : [value, point[1] ?? 0]) : point,
      ),
    });
  if (!curve.length)
    return (
      <Button
        sx={{ p: 0 }}
        onClick={() => {
          apply("pump.curve", [{ kind: "set_pump_by", inflow: pump.id, by: "curve" }]);
          onDone();
        }}
      >
        Use a pump curve
      </Button>
    );
  return (
    <Box
      role="group"
      aria-label="Pump curve"
      sx={{ display: "flex", flexWrap: "wrap", columnGap: 4, rowGap: 1, alignItems: "end" }}
    >
      <Box sx={{ width: 110 }}>
        <QuantityField
          label="Lifts to"
          family="m"
          digits={1}
          value={pump.lift_m ?? 0}
          fault={faultAt(faults, `/inflows/${index}/lift_m`)}
          onDone={onDone}
          onChange={(value) => put("lift", { ...pump, lift_m: value })}
        />
      </Box>
      {curve.map((point, at) => (
        <Box key={at} sx={{ display: "flex", gap: 1 }}>
          <Box sx={{ width: 84 }}>
            <QuantityField
              label={`Flow, ${at + 1}`}
              family="L/min"
              value={point[0] ?? 0}
              onDone={onDone}
              onChange={(value) => setPoint(at, 0, value)}
            />
          </Box>
          <Box sx={{ width: 74 }}>
            <QuantityField
              label={`Head, ${at + 1}`}
              family="m"
              digits={1}
              value={point[1] ?? 0}
              onDone={onDone}
              onChange={(value) => setPoint(at, 1, value)}
            />
          </Box>
        </Box>
      ))}
      <Button
        sx={{ p: 0 }}
        onClick={() => {
          apply("pump.flow", [{ kind: "set_pump_by", inflow: pump.id, by: "flow" }]);
          onDone();
        }}
      >
        Use one flow
      </Button>
    </Box>
  );
}
