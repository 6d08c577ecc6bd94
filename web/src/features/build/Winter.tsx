import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { askWinter } from "../../api/field";
import type { Design } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { OneOf } from "../../shared/OneOf";
import { QueueTold } from "../../shared/QueueTold";
import { today } from "../../shared/today";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import type { BuildProps } from "./Build";
import { FrostFields } from "./FrostFields";
import { FrostTold } from "./FrostTold";
import { Walk } from "./Walk";

const PARTS = [
  { value: "frost", text: "The frost" },
  { value: "walk", text: "The walk: drain, start again" },
] as const;

type Part = (typeof PARTS)[number]["value"];

/** A frost on this plan: what freezes first, the ways through it side by side, and the walk that empties the lines. */
export function Winter(props: BuildProps) {
  const { document, designId, faults, edit, onDone } = props;
  const [day] = useState(today);
  const [part, setPart] = useState<Part>("frost");
  const told = useKept(
    useSettled(["winter", day], document, document, (asked: Design, signal) => askWinter(asked, day, signal)),
  );
  if (!told)
    return (
      <Typography variant="h1" sx={{ p: 4 }}>
        Calculating what a frost does …
      </Typography>
    );
  const put = (frost: Design["frost"]) => {
    edit("frost", (draft) => {
      if (frost) draft.frost = frost;
      else delete draft.frost;
    });
    onDone();
  };
  return (
    <Box component="section" aria-label="Winter" sx={{ maxWidth: 860 }}>
      <Box sx={{ p: 4 }}>
        <Typography variant="h1" sx={{ mb: 2 }}>
          Winter
        </Typography>
        <OneOf name="Frost or walk" value={part} options={PARTS} onChange={setPart} />
        {part === "walk" ? (
          <Walk designId={designId} document={document} drain={told.drain} spring={told.spring} />
        ) : document.frost ? (
          <FrostFields
            frost={document.frost}
            site={document.site}
            faults={faults}
            edit={edit}
            onDone={onDone}
            onDelete={() => put(undefined)}
          />
        ) : (
          <Box sx={{ my: 3 }}>
            <Typography sx={{ mb: 2 }}>
              No frost is stated yet: nothing is said about ice and frozen lines. Begin with a month in your
              next winter, then set it to what people around you know.
            </Typography>
            <Button variant="contained" sx={{ minHeight: 48 }} onClick={() => put(told.suggested)}>
              Add a frost
            </Button>
          </Box>
        )}
        {part === "frost" && document.frost && told.winter && (
          <FrostTold document={document} told={told.winter} edit={edit} onDone={onDone} faults={faults} />
        )}
        <Caution>
          Ice on ponds and deep tanks carries nobody. Animals without water die within days, and snow does not
          make up for it: look daily. Dry hands at pumps and heaters, and no open flame at plastic.
        </Caution>
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}
