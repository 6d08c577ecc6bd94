import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { compareParts } from "../../api/client";
import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { saidText } from "../../shared/saidText";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import type { PartsProps } from "./Parts";
import { TABLE } from "../../shared/rowTable";

const BUCKET_L = 20; // to begin with; ours

/** Parts and ways of doing it side by side: one question at a time, with what each costs and does on this plan. */
export function Compare({ document }: PartsProps) {
  const system = usePreferences((state) => state.system);
  const [outlet, setOutlet] = useState<string | null>(null);
  const [bucket, setBucket] = useState(BUCKET_L);
  const [wanted, setWanted] = useState("");
  const answer = useSettled(["comparisons", outlet, bucket], document, document, (asked: Design, signal) =>
    compareParts(asked, outlet, bucket, signal),
  );
  const shown = useKept(answer);
  const outlets = document.outlets ?? [];
  if (!outlets.length)
    return (
      <Typography sx={{ p: 4 }}>Place a trough or a tap: parts are compared where water runs.</Typography>
    );
  if (!shown)
    return (
      <Typography variant="h1" sx={{ p: 4 }}>
        Trying each of them in the plan …
      </Typography>
    );
  const one = shown.comparisons.find(({ key }) => key === wanted) ?? shown.comparisons[0];
  return (
    <Box component="section" aria-label="Compare" sx={{ p: 4 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, mb: 3 }}>
        <Box sx={{ width: 320 }}>
          <Choice
            label="Compare"
            value={one?.key ?? ""}
            options={shown.comparisons.map(({ key, title }) => ({ value: key, text: title }))}
            onChange={setWanted}
          />
        </Box>
        <Box sx={{ width: 220 }}>
          <Choice
            label="At"
            value={outlet ?? shown.outlet}
            options={outlets
              .filter((each) => !each.shut)
              .map(({ id }) => ({ value: id, text: nameOfPart(document, id) }))}
            onChange={setOutlet}
          />
        </Box>
        <Box sx={{ width: 130 }}>
          <QuantityField label="Your bucket" family="L" digits={1} value={bucket} onChange={setBucket} />
        </Box>
      </Box>
      {one && (
        <Box sx={{ opacity: answer ? 1 : 0.6 }} data-testid={`compare-${one.key}`}>
          <Typography variant="h1">{one.title}</Typography>
          <Box sx={{ overflowX: "auto", mt: 2 }} tabIndex={0} role="region" aria-label={one.title}>
            <Box component="table" sx={TABLE}>
              <thead>
                <tr>
                  <th scope="col">What</th>
                  {one.columns.map((column) => (
                    <th key={column} scope="col">
                      {column}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {one.rows.map((row, number) => (
                  <tr key={number}>
                    <th scope="row" className="part" style={row.is_now ? { fontWeight: 700 } : undefined}>
                      {row.name}
                      {row.is_now && (
                        <span className="aside" style={{ color: ink("deep") }}>
                          as the plan has it
                        </span>
                      )}
                    </th>
                    {row.cells.map((cell, column) => (
                      <td key={column}>{saidText(cell, system)}</td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </Box>
          </Box>
          {one.notes.map((note, number) => (
            <Typography key={number} sx={{ mt: 2, maxWidth: 760, fontSize: 13 }}>
              {saidText(note, system)}
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  );
}
