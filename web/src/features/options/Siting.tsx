import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { OneOf } from "../../shared/OneOf";
import { patched } from "../../shared/patched";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { Running } from "./Running";
import { MEASURES, costText, measuresOf, partsOf, placesOf, type Measure, type Position } from "./siting";
import { SitingMap } from "./SitingMap";
import { SitingTable, directionOf } from "./SitingTable";
import { StandsNeeded } from "./StandsNeeded";
import { useSizing } from "./useSizing";

const REACH_M = 60; // around a tank, to begin with; ours

interface Props {
  document: Design;
  replace: (document: Design) => void;
  onTake: (plan: { document: Record<string, unknown> }, called: string) => void;
}

/** Where a trough could stand along a line or in a paddock, and a tank on its hill: cost, flow, walk and stand. */
export function Siting({ document, replace, onTake }: Props) {
  const system = usePreferences((state) => state.system);
  const parts = partsOf(document);
  const [wanted, setWanted] = useState("");
  const part = parts.find((one) => one.value === wanted) ?? parts[0];
  const isTank = part?.group === "Tanks";
  const places = part && !isTank ? placesOf(document, part.value) : [];
  const [wantedPlace, setPlace] = useState("");
  const place = places.find((one) => one.value === wantedPlace) ?? places[0];
  const [reach, setReach] = useState(REACH_M);
  const [forAll, setForAll] = useState(false);
  const [kind = "", id = ""] = place ? split(place.value) : [];
  const asked = useSizing("site", document, {
    part: part?.value ?? "",
    ...(isTank ? { reach_m: reach, for_all: forAll } : kind === "paddock" ? { paddock: id } : { along: id }),
  });
  const [by, setBy] = useState<Measure>("best");
  const [chosenAt, choose] = useState<string | null>(null);
  if (!part) return <Typography sx={{ my: 2 }}>There is no outlet and no tank in this plan yet.</Typography>;
  const siting = asked.told;
  const measures = siting ? measuresOf(siting) : [];
  const key = (one: Position) => `${one.east_m} ${one.north_m}`;
  const chosen = siting?.positions.find((one) => key(one) === chosenAt) ?? siting?.positions[0];
  const coloured = by !== "best" && measures.includes(by) ? by : "cost";
  const moved = () => patched(siting?.document as unknown as Design, chosen?.patch ?? []);
  return (
    <section aria-label="Where it could stand">
      <Typography variant="h1">Where it could stand</Typography>
      <Typography sx={{ color: ink("faint"), maxWidth: 760, my: 1 }}>
        Each position is tried on the network with all open. Beside a line it draws from the pipe there; in a
        paddock a straight pipe of the same kind leads to it from the nearest line. Walks are straight, from
        the farthest corner. The ground is taken between known heights: measure there before you dig.
      </Typography>
      <Box sx={{ display: "flex", gap: 4, alignItems: "end", flexWrap: "wrap" }}>
        <Box sx={{ width: 230 }}>
          <Choice label="What" value={part.value} options={parts} onChange={setWanted} />
        </Box>
        {isTank ? (
          <>
            <Box sx={{ width: 130 }}>
              <QuantityField label="Within" family="m" digits={0} value={reach} onChange={setReach} />
            </Box>
            <FormControlLabel
              label="also for who lacks water now"
              control={<Checkbox size="small" checked={forAll} onChange={(_, on) => setForAll(on)} />}
            />
          </>
        ) : (
          <Box sx={{ width: 230 }}>
            <Choice label="Where" value={place?.value ?? ""} options={places} onChange={setPlace} />
          </Box>
        )}
        <Running of={asked} text="Try positions" doing="Trying positions …" />
      </Box>
      {siting && siting.positions.length > 0 && chosen && (
        <Box data-testid="siting" sx={{ mt: 3 }}>
          <Box sx={{ display: "flex", alignItems: "center", gap: 3, mb: 2, flexWrap: "wrap" }}>
            <span>Order and colour by</span>
            <OneOf<Measure>
              name="Order and colour by"
              value={by}
              options={[
                { value: "best", text: "Best first" },
                ...measures.map((measure) => ({ value: measure, text: MEASURES[measure].name })),
              ]}
              onChange={setBy}
            />
          </Box>
          <Box
            sx={{
              display: "grid",
              gap: 5,
              gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" },
            }}
          >
            <Box>
              <SitingMap
                siting={siting}
                document={document}
                by={coloured}
                chosen={chosen}
                onChoose={(one) => choose(key(one))}
              />
              <Typography component="p" data-testid="siting-told" sx={{ my: 2 }}>
                <strong>
                  {siting.name}, {directionOf(chosen, siting, system)}
                </strong>
                : {costText(chosen.cost, siting.currency)}
                {chosen.flow_lpm !== null &&
                  `, ${quantityText({ value: chosen.flow_lpm, unit: "L/min" }, system)}`}
                {chosen.walk_m !== null &&
                  `, ${quantityText({ value: chosen.walk_m, unit: "m", digits: 0 }, system)} to walk at most`}
                {chosen.stand_m !== null &&
                  `, a stand of ${quantityText({ value: chosen.stand_m, unit: "m", digits: 2 }, system)}`}
                .
              </Typography>
              {asked.progress === null && (
                <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap" }}>
                  <Button
                    variant="contained"
                    onClick={() =>
                      onTake({ document: moved() }, `${siting.name} ${directionOf(chosen, siting, system)}`)
                    }
                  >
                    Keep as an option
                  </Button>
                  <Button variant="outlined" onClick={() => replace(moved())}>
                    Put it there
                  </Button>
                </Box>
              )}
            </Box>
            <Box>
              <SitingTable siting={siting} by={by} chosen={chosen} onChoose={(one) => choose(key(one))} />
              <Typography sx={{ fontSize: 13, color: ink("faint"), mt: 2 }}>
                {siting.left_out > 0 &&
                  `${siting.left_out} ${siting.left_out === 1 ? "spot is" : "spots are"} left out: no heights are known around ${siting.left_out === 1 ? "it" : "them"}. `}
                {siting.kind === "vessel" &&
                  `${forAll ? "" : "Who lacks water now is not asked for more. "}What feeds the tank has to go on bringing it.`}
              </Typography>
            </Box>
          </Box>
          {siting.stands.length > 0 && <StandsNeeded siting={siting} />}
          {siting.kind === "vessel" && (
            <Caution>
              A cubic metre of water weighs a tonne: stand, ground and stops against tipping are for someone
              qualified. Its price is that of Costs under Parts.
            </Caution>
          )}
        </Box>
      )}
    </section>
  );
}

const split = (value: string): [string, string] => {
  const at = value.indexOf(" ");
  return [value.slice(0, at), value.slice(at + 1)];
};
