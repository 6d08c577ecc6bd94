import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design, Dose } from "../../api/types";
import { ink } from "../../app/theme";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { Rows } from "../../shared/Rows";
import { amountText, baseText, USUAL_DAYS } from "./amount";
import { Strength } from "./Strength";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";

const percent = (share: number) => `${Math.round(100 * share)} %`;
const SCHOOL = {
  reservoir: "the reservoir, every top-up at strength",
  pot: "the pots, plain water by float",
};
const BAR = { width: 8, high: 44 };
const LEAST_TOP = 2; // strength at the top of the picture, or the highest there is

/** A dose: how much for the water that is there, how to mix it, how strong the pots stay. */
export function DoseTold({ document, dose }: { document: Design; dose: Dose }) {
  const system = usePreferences((state) => state.system);
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const every = document.dosings?.find(({ id }) => id === dose.id)?.every_days ?? USUAL_DAYS;
  const days = quantityText({ value: every, unit: "d" }, system);
  const top = Math.max(LEAST_TOP, ...dose.by_day);
  return (
    <Box data-testid={`dose-${dose.id}`} sx={{ bgcolor: ink("rail"), p: 3, mt: 3 }}>
      <Typography variant="h2" sx={{ fontSize: 22 }}>
        {amountText(dose.amount, system)}
      </Typography>
      <Typography>
        for the {litres(dose.water_l)} that are in {nameOfPart(document, dose.vessel)}
        {dose.dead_l >= 1 && `, ${litres(dose.dead_l)} of it under the outlet`}
        {dose.pump_m != null &&
          `; its pump runs dry under ${quantityText({ value: dose.pump_m, unit: "m" }, system)}, where ${litres(dose.pump_l)} are left`}
        .
      </Typography>
      <Box component="ol" aria-label="How to mix it" sx={{ pl: 5 }}>
        {dose.steps.map((step, number) => (
          <li key={number}>{saidText(step, system)}</li>
        ))}
      </Box>
      {dose.by_day.length > 0 && (
        <>
          <Typography data-testid={`strength-${dose.id}`}>
            In {dose.pots} pots:{" "}
            {dose.least != null && dose.most != null
              ? `from ${percent(dose.least)} just before a dose to ${percent(dose.most)} just after it, once that repeats.`
              : `${percent(dose.by_day.at(-1) ?? 1)} of the recipe’s strength after ${dose.by_day.length - 1} days.`}{" "}
            {dose.keeps != null &&
              `A dose of ${percent(dose.keeps)} would hold it at full strength on the mean.`}
          </Typography>
          <svg
            role="img"
            aria-label={`Strength in the pots over ${dose.by_day.length - 1} days`}
            width={dose.by_day.length * BAR.width}
            height={BAR.high + 4}
          >
            <line
              x1={0}
              x2={dose.by_day.length * BAR.width}
              y1={BAR.high * (1 - 1 / top) + 2}
              y2={BAR.high * (1 - 1 / top) + 2}
              stroke={ink("ink")}
              strokeDasharray="3 3"
            />
            {dose.by_day.map((strength, day) => {
              const high = (strength / top) * BAR.high;
              return (
                <rect
                  key={day}
                  x={day * BAR.width + 1}
                  y={BAR.high - high + 2}
                  width={BAR.width - 2}
                  height={high}
                  fill={ink("deep")}
                />
              );
            })}
          </svg>
          <Typography sx={{ fontSize: 13 }}>
            A bar a day, the dashes full strength. By what the plants drink on this plan, with what they take
            of the strength as the recipe has it; measure it.
          </Typography>
        </>
      )}
      {dose.schools.length > 1 && (
        <Rows
          label="Both ways on this plan"
          heads={[
            { text: "Dosed" },
            { text: "At once", kind: "figure" },
            { text: "In a week", kind: "figure" },
            { text: "Strength in the pots", kind: "figure" },
          ]}
        >
          {dose.schools.map((school) => (
            <tr key={school.into} data-testid={`school-${school.into}`}>
              <th scope="row">
                {SCHOOL[school.into]}
                <span className="aside">
                  {nameOfPart(document, school.vessel)}
                  {school.into === "pot" && `, every ${days}`}
                </span>
              </th>
              <td className="figure">{baseText(school.dose)}</td>
              <td className="figure">{baseText(school.per_week)}</td>
              <td className="figure">
                {school.least === null || school.most === null
                  ? "grows with each dose"
                  : `${percent(school.least)} to ${percent(school.most)}`}
              </td>
            </tr>
          ))}
        </Rows>
      )}
      <Strength document={document} dosing={dose.id} />
    </Box>
  );
}
