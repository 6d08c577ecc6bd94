import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState, type ReactNode } from "react";

import type { Sight } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { Cross } from "../../shared/DeleteButton";
import type { Family } from "../../shared/units";
import { useDefaults } from "../../shared/defaults";

/** How the fields of a reading stand in a row. */
export const LINE = {
  display: "flex",
  flexWrap: "wrap",
  gap: 4,
  alignItems: "start",
  mb: 2,
  "& > *": { width: 128 },
} as const;

type Barometer = Extract<Sight, { kind: "barometer" }>;

interface RowsProps {
  sight: Barometer;
  number: number;
  place: (label: string, value: string, put: (own: Sight, value: string) => void) => ReactNode;
  field: (
    label: string,
    key: string,
    value: number | null | undefined,
    put: (own: Sight, value: number) => void,
    options?: { family?: Family; digits?: number; hint?: string; clear?: (own: Sight) => void },
  ) => ReactNode;
  change: (key: string, recipe: (own: Sight) => void, done?: boolean) => void;
}

/** The stops of a barometer's walk: the last is where it began. */
export function BarometerRows({ sight, number, place, field, change }: RowsProps) {
  const defaults = useDefaults();
  const [pressures, setPressures] = useState(sight.readings.some((one) => one.pressure_hpa != null));
  const each = (recipe: (own: Barometer) => void) => (own: Sight) => {
    if (own.kind === "barometer") recipe(own);
  };
  const put = (at: number, recipe: (reading: Barometer["readings"][number]) => void) =>
    each((own) => {
      const reading = own.readings[at];
      if (reading) recipe(reading);
    });
  return (
    <>
      <Box sx={LINE}>
        <Choice
          label="Instrument shows"
          value={pressures ? "pressure" : "height"}
          options={[
            { value: "height", text: "a height" },
            { value: "pressure", text: "air pressure, hPa" },
          ]}
          onChange={(value) => {
            setPressures(value === "pressure");
            change(
              "shows",
              each((own) => {
                own.readings = own.readings.map(({ place: at, minute }) => ({ place: at, minute }));
              }),
              true,
            );
          }}
        />
        {field(
          "Known to ±",
          "error_m",
          sight.error_m,
          (own, value) => each((b) => void (b.error_m = value))(own),
          {
            hint: "empty: 1 m",
            clear: each((b) => void (b.error_m = null)),
          },
        )}
        {pressures &&
          field(
            "Air",
            "air_c",
            sight.air_c ?? defaults?.reading_air_c ?? null,
            (own, value) => each((b) => void (b.air_c = value))(own),
            {
              family: "°C",
              digits: 0,
            },
          )}
      </Box>
      {sight.readings.map((reading, at) => (
        <Box key={at} sx={LINE} role="group" aria-label={`Step ${at + 1}`}>
          {place("Stop at", reading.place, (own, value) => put(at, (one) => void (one.place = value))(own))}
          {field(
            "Minute",
            `readings/${at}/minute`,
            reading.minute,
            (own, value) => put(at, (one) => void (one.minute = value))(own),
            { family: "count", digits: 0 },
          )}
          {pressures
            ? field(
                "Pressure, hPa",
                `readings/${at}/pressure_hpa`,
                reading.pressure_hpa,
                (own, value) => put(at, (one) => void (one.pressure_hpa = value))(own),
                { family: "count", digits: 2 },
              )
            : field(
                "Shows",
                `readings/${at}/height_m`,
                reading.height_m,
                (own, value) => put(at, (one) => void (one.height_m = value))(own),
                { digits: 1 },
              )}
          {sight.readings.length > 3 && at > 0 && at < sight.readings.length - 1 && (
            <Cross
              label={`Delete stop ${at + 1} of ${number}`}
              onClick={() =>
                change(
                  "readings",
                  each((own) => void own.readings.splice(at, 1)),
                  true,
                )
              }
            />
          )}
        </Box>
      ))}
      <Button
        variant="outlined"
        onClick={() =>
          change(
            "more",
            each((own) => {
              const last = own.readings.at(-1);
              if (!last) return;
              own.readings.splice(-1, 0, { ...last });
              own.readings[own.readings.length - 1] = { ...last, minute: last.minute + 10 };
            }),
            true,
          )
        }
      >
        Next stop
      </Button>
    </>
  );
}
