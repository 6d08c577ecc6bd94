import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Design, SizedPlan, Vessel } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { Curve } from "./Curve";
import { Running } from "./Running";
import { useSizing } from "./useSizing";

const RISE_M = 2; // to begin with; ours

interface Props {
  document: Design;
  onTake: (plan: SizedPlan, called: string) => void;
}

/** Of some tanks the one from which pipes lead to most outlets, other tanks left aside. */
function mostFed(document: Design, tanks: Vessel[]): Vessel | undefined {
  const lines = document.lines ?? [];
  const vessels = new Set((document.vessels ?? []).map((vessel) => vessel.id));
  const outlets = document.outlets ?? [];
  const fed = (tank: Vessel) => {
    const seen = new Set([tank.id]);
    for (const node of seen)
      if (node === tank.id || !vessels.has(node))
        for (const line of lines)
          if (line.from === node || line.to === node) seen.add(line.from === node ? line.to : line.from);
    return outlets.filter((outlet) => seen.has(outlet.id) || seen.has(outlet.place)).length;
  };
  return [...tanks].sort((a, b) => fed(b) - fed(a))[0];
}

/** What a higher tank saves in pipe: the cheapest plan over the height of its stand. */
export function Stand({ document, onTake }: Props) {
  const system = usePreferences((state) => state.system);
  const filled = new Set((document.outlets ?? []).map((outlet) => outlet.fills));
  const ends = new Set((document.lines ?? []).map((line) => line.from));
  const tanks = (document.vessels ?? []).filter((vessel) => ends.has(vessel.id) && !filled.has(vessel.id));
  const [wanted, setWanted] = useState("");
  const [most, setMost] = useState(RISE_M);
  const tank = tanks.find((vessel) => vessel.id === wanted) ?? mostFed(document, tanks);
  const asked = useSizing("stand", document, { vessel: tank?.id ?? "", most_m: most });
  if (!tank) return null;
  const metres = (at: number) => quantityText({ value: at, unit: "m", digits: 2 }, system);
  return (
    <section aria-label="Height of the tank">
      <Typography variant="h2" sx={{ mt: 5 }}>
        What a higher tank saves
      </Typography>
      <Box sx={{ display: "flex", gap: 4, alignItems: "end", flexWrap: "wrap" }}>
        <Box sx={{ width: 240 }}>
          <Choice
            label="Tank"
            value={tank.id}
            options={tanks.map((vessel) => ({ value: vessel.id, text: nameOfPart(document, vessel.id) }))}
            onChange={setWanted}
          />
        </Box>
        <Box sx={{ width: 130 }}>
          <QuantityField label="Up to higher by" family="m" digits={2} value={most} onChange={setMost} />
        </Box>
      </Box>
      <Running of={asked} text="Draw it over its height" doing="Sizing for higher and higher …" />
      {asked.told && (
        <>
          <Curve
            curve={asked.told}
            onTake={onTake}
            said={metres}
            along={`higher than ${nameOfPart(document, tank.id)} stands`}
            alone="A higher tank does not make the pipes cheaper."
            beyond="Lower than that, nothing fits"
            called={(at) => (at === 0 ? "as high as it stands" : `${metres(at)} higher`)}
          />
          <Caution>
            What a stand costs is left out: what is saved is what it may cost. A cubic metre of water weighs a
            tonne: have stand and ground checked by someone qualified.
          </Caution>
        </>
      )}
    </section>
  );
}
