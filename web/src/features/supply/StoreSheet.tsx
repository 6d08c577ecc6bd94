import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Analysis, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { download } from "../../shared/download";
import { named } from "../../shared/names";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText, shownUnit, toShown } from "../../shared/units";
import { levelStrip } from "./levelStrip";

interface Props {
  document: Design;
  supply: Analysis["supply"];
  store: Analysis["supply"]["stores"][number];
}

/** One store: what it gives and weighs, its level in litres, and when it must be filled. */
export function StoreSheet({ document, supply, store }: Props) {
  const system = usePreferences((state) => state.system);
  const vessel = document.vessels?.find((one) => one.id === store.vessel);
  const name = named(vessel ?? { id: store.vessel });
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const round = supply.round.find((one) => one.vessel === store.vessel);
  const reachable = vessel?.reachable;
  const rows: [string, string][] = [
    ["Usable now", litres(store.usable_l)],
    ["Unusable, below the outlets", litres(store.dead_l)],
    ["Weight when full", quantityText({ value: store.full_kg, unit: "kg" }, system)],
    ["Tanker access", reachable == null ? "unknown" : reachable ? "yes" : "no"],
    ...(round
      ? ([
          [
            "Empty in",
            round.days === null ? "no use yet" : quantityText({ value: round.days, unit: "d" }, system),
          ],
          ["To fill it", litres(round.fill_l)],
        ] satisfies [string, string][])
      : []),
  ];
  const marks = store.marks_m.map((level, index) => ({
    level,
    text: `${figure(toShown(level, "m", system), 2)} ${shownUnit("m", system)}`,
    litres: litres(store.marks_l[index] ?? 0),
  }));
  return (
    <>
      <Box
        component="dl"
        sx={{
          display: "grid",
          gridTemplateColumns: "220px auto",
          justifyContent: "start",
          rowGap: 1,
          columnGap: 4,
          m: 0,
          mb: 2,
        }}
      >
        {rows.map(([title, text]) => (
          <Box key={title} sx={{ display: "contents" }}>
            <Box component="dt" sx={{ color: ink("faint") }}>
              {title}
            </Box>
            <Box component="dd" sx={{ m: 0 }}>
              {text}
            </Box>
          </Box>
        ))}
      </Box>
      <Button
        variant="outlined"
        onClick={() =>
          download(
            levelStrip(`${document.site.name}: ${name}`, marks),
            "image/svg+xml",
            `${name} dipstick scale`,
            "svg",
          )
        }
      >
        Dipstick scale
      </Button>
      <PictureTable
        title="Volume by level"
        head={["Level", "Holds"]}
        rows={marks.map((mark) => [mark.text, mark.litres])}
      />
      <Typography variant="caption" color="text.secondary">
        Its shape, levels, stand and overflow are under Lines: choose it on the plan.
      </Typography>
    </>
  );
}
