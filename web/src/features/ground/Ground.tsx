import Box from "@mui/material/Box";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Analysis, Design, Fault, Measuring } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Files } from "./Files";
import { Lengths } from "./Lengths";
import { NextReadings } from "./NextReadings";
import { Places } from "./Places";
import { Readings } from "./Readings";

interface Props {
  document: Design;
  analysis: Analysis;
  measuring: Measuring | null;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  replace: (document: Design) => void;
  onDone: () => void;
}

const PARTS = ["Heights", "Readings", "Lengths and profiles", "Import and export"];

/** Heights and distances as people get them: what they are, what was read, and what to measure next. */
export function Ground({ document, analysis, measuring, replace, ...figures }: Props) {
  const [part, setPart] = useState(0);
  const shared = { document, ground: analysis.ground, ...figures };
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, maxWidth: 1100 }}>
      <Typography variant="h1">Ground: {document.places.length} places with a height</Typography>
      <Typography color="text.secondary">
        The head is a difference of heights. Measure those that the answers turn on; the rest is good enough.
      </Typography>
      <NextReadings {...{ document, measuring }} />
      <Tabs
        value={part}
        onChange={(_, chosen: number) => setPart(chosen)}
        variant="scrollable"
        scrollButtons={false}
        aria-label="Parts of Ground"
        sx={{
          mb: 3,
          minHeight: { xs: 44, md: 36 },
          "& button": { minHeight: { xs: 44, md: 36 }, py: 1, textTransform: "none" },
        }}
      >
        {PARTS.map((name, index) => (
          <Tab key={name} label={name} id={`ground-tab-${index}`} aria-controls={`ground-part-${index}`} />
        ))}
      </Tabs>
      <Box role="tabpanel" id={`ground-part-${part}`} aria-labelledby={`ground-tab-${part}`}>
        {part === 0 && <Places {...shared} />}
        {part === 1 && <Readings {...shared} flows={measuring?.flows ?? []} />}
        {part === 2 && <Lengths {...shared} replace={replace} />}
        {part === 3 && <Files {...{ document, replace, ...figures }} />}
      </Box>
      <Caution>
        Before you dig, call the utility locating service; keep a staff away from overhead lines, and yourself
        out of unfenced water.
      </Caution>
    </Box>
  );
}
