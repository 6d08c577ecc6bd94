import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { compareSchools } from "../../api/client";
import type { Design, Schools } from "../../api/types";
import { ink } from "../../app/theme";
import { useLookEveryH } from "../../shared/defaults";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText, type System } from "../../shared/units";

interface Props {
  document: Design;
  outlet: string;
}

/** A small valve that loses little when it fails, or a large one that keeps up: both for the same herd. */
export function TwoSchools({ document, outlet }: Props) {
  const [open, setOpen] = useState(false);
  const system = usePreferences((state) => state.system);
  const lookEveryH = useLookEveryH(document);
  const told = useQuery({
    queryKey: ["schools", outlet, document],
    queryFn: ({ signal }) => compareSchools(document, outlet, signal),
    enabled: open,
    staleTime: Infinity,
    retry: false,
  });
  return (
    <Box sx={{ mt: 2 }}>
      <Button sx={{ p: 0 }} onClick={() => setOpen(!open)} aria-expanded={open}>
        Small valve or full flow?
      </Button>
      {open && told.isPending && <Typography color="text.secondary">Calculating both …</Typography>}
      {open && told.isError && <Typography color="text.secondary">{told.error.message}</Typography>}
      {open && told.data && <SchoolTable schools={told.data.schools} system={system} lookH={lookEveryH} />}
    </Box>
  );
}

function SchoolTable({
  schools,
  system,
  lookH,
}: {
  schools: Schools["schools"];
  system: System;
  lookH: number | null;
}) {
  const minutes = (value: number | null | undefined) =>
    value == null ? "not in 12 hours" : quantityText({ value, unit: "min" }, system);
  const rows: [string, (one: Schools["schools"][number]) => string][] = [
    ["Flow, one at a time", (one) => quantityText({ value: one.alone_lpm, unit: "L/min" }, system)],
    ["All watered after", (one) => minutes(one.watering?.visits[0]?.served_min)],
    [
      "Left waiting for room",
      (one) => `${figure(100 * (one.watering?.visits[0]?.left_waiting_share ?? 0), 0)} %`,
    ],
    [
      "Lowest level",
      (one) =>
        one.watering?.runs_empty
          ? "■ empty"
          : quantityText({ value: one.watering?.lowest_l ?? 0, unit: "L" }, system),
    ],
    ["Full again after", (one) => minutes(one.watering?.recovered_min)],
    [
      `Lost by the next look, ${lookH === null ? "" : figure(lookH, 0)} hours on, if it sticks open`,
      (one) =>
        `${quantityText({ value: one.lost_l, unit: "L" }, system)}${one.empties_store ? " ■ the whole store" : ""}`,
    ],
  ];
  return (
    <Box
      component="table"
      data-testid="schools"
      sx={{
        mt: 1,
        borderCollapse: "collapse",
        fontSize: 13,
        "& th, & td": { textAlign: "right", fontWeight: 400, py: 0.5, pl: 5, verticalAlign: "top" },
        "& th:first-of-type": { textAlign: "left", pl: 0, color: ink("faint") },
        "& tbody tr": { borderTop: `1px solid ${ink("rule")}` },
      }}
    >
      <thead>
        <tr>
          <th scope="col">Kv {figure(schools[1]?.kv_m3h ?? 0, 2)} this valve</th>
          {schools.map((one) => (
            <th key={one.title} scope="col">
              <strong>{one.title}</strong>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([title, text]) => (
          <tr key={title}>
            <th scope="row">{title}</th>
            {schools.map((one) => (
              <td key={one.title}>{text(one)}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
