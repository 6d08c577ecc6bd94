import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { TABLE } from "../../shared/rowTable";
import { quantityText } from "../../shared/units";
import { MEASURES, inOrder, measuresOf, troubleOf, type Measure, type Position, type Siting } from "./siting";

const FIRST_SHOWN = 10;

interface Props {
  siting: Siting;
  by: Measure;
  chosen: Position | undefined;
  onChoose: (one: Position) => void;
}

/** Positions row by row, the best first, with what is amiss at each. */
export function SitingTable({ siting, by, chosen, onChoose }: Props) {
  const system = usePreferences((state) => state.system);
  const [all, setAll] = useState(false);
  const measures = measuresOf(siting);
  const rows = inOrder(siting.positions, by);
  const shown = all ? rows : rows.slice(0, FIRST_SHOWN);
  const metres = (value: number, digits = 0) => quantityText({ value, unit: "m", digits }, system);
  const trouble = (one: Position) => {
    const told = troubleOf(one, siting, system);
    return told && <span className="aside">{told}</span>;
  };
  const cells = (one: Position) => (
    <>
      <td className="figure">
        {metres(one.ground_m, 1)}
        {one.off_m >= 1 && <span className="aside">known {metres(one.off_m)} away</span>}
      </td>
      <td className="figure wide">
        {one.more_m > 0 ? "+" : ""}
        {metres(one.more_m)}
      </td>
      {measures.map((measure) => (
        <td key={measure} className="figure">
          {MEASURES[measure].text(one, siting.currency, system)}
        </td>
      ))}
    </>
  );
  return (
    <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Positions">
      <Box component="table" sx={TABLE} data-testid="positions">
        <thead>
          <tr>
            <th scope="col">Position</th>
            <th scope="col" className="figure">
              Ground
            </th>
            <th scope="col" className="figure wide">
              Pipe
            </th>
            {measures.map((measure) => (
              <th key={measure} scope="col" className="figure">
                {MEASURES[measure].name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {siting.now && (
            <tr data-testid="position-now">
              <th scope="row">
                where it stands
                {trouble(siting.now)}
              </th>
              {cells(siting.now)}
            </tr>
          )}
          {shown.map((one, number) => (
            <tr
              key={`${one.east_m} ${one.north_m}`}
              style={one === chosen ? { background: ink("sheet") } : undefined}
            >
              <th scope="row">
                <Button
                  size="small"
                  aria-pressed={one === chosen}
                  onClick={() => onChoose(one)}
                  sx={{ p: 0, minWidth: 0, fontSize: "inherit", whiteSpace: "nowrap" }}
                >
                  {number + 1} · {directionOf(one, siting, system)}
                </Button>
                {trouble(one)}
              </th>
              {cells(one)}
            </tr>
          ))}
        </tbody>
      </Box>
      {rows.length > FIRST_SHOWN && (
        <Button onClick={() => setAll(!all)}>
          {all ? "Show the first only" : `Show all ${rows.length}`}
        </Button>
      )}
    </Box>
  );
}

const WINDS = ["east", "north-east", "north", "north-west", "west", "south-west", "south", "south-east"];

/** How far and where a position lies from where the part stands. */
export function directionOf(
  one: Position,
  siting: Siting,
  system: Parameters<typeof quantityText>[1],
): string {
  const [east, north] = [one.east_m - (siting.at[0] ?? 0), one.north_m - (siting.at[1] ?? 0)];
  const away = Math.hypot(east, north);
  if (away < 1) return "here";
  const wind = WINDS[(Math.round((Math.atan2(north, east) * 4) / Math.PI) + 8) % 8] ?? "";
  return `${quantityText({ value: away, unit: "m", digits: 0 }, system)} ${wind}`;
}
