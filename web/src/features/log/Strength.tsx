import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { Refused } from "../../api/client";
import { tellMixed } from "../../api/field";
import type { Design, Mixed } from "../../api/types";
import { Folded } from "../../shared/Folded";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { useSettled } from "../../shared/useSettled";
import { amountText } from "./amount";
import { refusedText } from "./refused";

interface Asked {
  document: Design;
  dosing: string;
  now: number;
  wanted: number;
}

const PERCENT = 100;

/** Water that has some strength already, brought to another: by a dose, or by plain water as far as there is room. */
export function Strength({ document, dosing }: { document: Design; dosing: string }) {
  const system = usePreferences((state) => state.system);
  const [now, setNow] = useState<number | null>(null);
  const [wanted, setWanted] = useState<number | null>(PERCENT);
  const [asked, setAsked] = useState<Asked | null>(null);
  const next =
    now === null || wanted === null
      ? null
      : { document, dosing, now: now / PERCENT, wanted: wanted / PERCENT };
  if (asked?.document !== next?.document || asked?.now !== next?.now || asked?.wanted !== next?.wanted)
    setAsked(next);
  const told = useSettled(["mixed"], asked, asked, (one: Asked, signal) =>
    tellMixed(one, signal).catch((error: unknown) => {
      if (error instanceof Refused) return refusedText(error.problem.faults?.[0]) ?? error.message;
      throw error;
    }),
  );
  return (
    <Folded title="It has some strength already">
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, my: 2 }}>
        <QuantityField label="Strength now, % of the recipe’s" family="count" value={now} onChange={setNow} />
        <QuantityField label="Wanted, %" family="count" value={wanted} onChange={setWanted} />
      </Box>
      {told !== null && (
        <Typography role="status" data-testid={`mixed-${dosing}`} sx={{ fontWeight: 700 }}>
          {typeof told === "string"
            ? told
            : mixedText(told, (litres) => quantityText({ value: litres, unit: "L" }, system), system)}
        </Typography>
      )}
    </Folded>
  );
}

function mixedText(
  { dose, plain_l: plain }: Mixed,
  litres: (value: number) => string,
  system: Parameters<typeof amountText>[1],
): string {
  if (dose) return dose.value > 0 ? `Mix in ${amountText(dose, system)}.` : "It is as strong as that.";
  return `Add ${litres(plain ?? 0)} of plain water.`;
}
