import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { PartsNeeded } from "../../api/types";
import { usePreferences } from "../../shared/preferences";
import { saidText } from "../../shared/saidText";
import { TABLE } from "../../shared/rowTable";

type Step = PartsNeeded["work"][number];

const hours = (value: number) => (value === 0 ? "wait" : value < 10 ? value.toFixed(1) : value.toFixed(0));

/** The order of work, with hours for one person and for two. */
export function Work({ needed }: { needed: PartsNeeded }) {
  const system = usePreferences((state) => state.system);
  const sum = (key: "one_h" | "two_h") =>
    needed.work.reduce((total, step) => total + (step.is_later ? 0 : step[key]), 0);
  const row = (step: Step) => (
    <tr key={needed.work.indexOf(step)}>
      <th scope="row">
        {needed.work.indexOf(step) + 1}. {saidText(step.told, system)}
        {step.counted.length > 0 && <span className="aside">{saidText(step.counted, system)}</span>}
      </th>
      <td className="figure">{hours(step.one_h)}</td>
      <td className="figure">{hours(step.two_h)}</td>
    </tr>
  );
  return (
    <Box component="section" aria-label="Order of work" sx={{ p: 4, maxWidth: 760 }}>
      <Typography variant="h1">Order of work</Typography>
      <Box sx={{ overflowX: "auto", mt: 2 }} tabIndex={0} role="region" aria-label="Steps of the work">
        <Box component="table" sx={TABLE}>
          <thead>
            <tr>
              <th scope="col">Step</th>
              <th scope="col" className="figure">
                One person, hours
              </th>
              <th scope="col" className="figure">
                Two people, hours
              </th>
            </tr>
          </thead>
          <tbody>
            {needed.work.filter((step) => !step.is_later).map(row)}
            <tr>
              <th scope="row" style={{ fontWeight: 700 }}>
                Until the water runs
              </th>
              <td className="figure">{hours(sum("one_h"))}</td>
              <td className="figure">{hours(sum("two_h"))}</td>
            </tr>
            {needed.work.filter((step) => step.is_later).map(row)}
          </tbody>
        </Box>
      </Box>
      <Typography sx={{ mt: 2, fontSize: 13 }}>
        Hours by our own rough figures for each metre, joint and hole, for hands that have done it before: no
        source.
      </Typography>
    </Box>
  );
}
