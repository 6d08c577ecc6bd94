import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Design, Fault, FlowCheck, GroundReport } from "../../api/types";
import { LevelBook } from "./LevelBook";
import { SightCard } from "./SightCard";
import { BY_HAND, WAYS } from "./sights";
import { useEdits } from "../../shared/edits";

interface Props {
  document: Design;
  ground: GroundReport;
  flows: FlowCheck[];
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** What was read in the field, by any way: level books, and all other sights. */
export function Readings({ document, ground, flows, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  return (
    <>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        Start at a place of known height and return to it: the misclosure shows how accurate the rest is.
      </Typography>
      <Box role="group" aria-label="Add reading" sx={{ display: "flex", flexWrap: "wrap", gap: 2, mb: 3 }}>
        <Button
          variant="outlined"
          onClick={() => {
            apply("book.new", [{ kind: "add_book" }]);
            onDone();
          }}
        >
          Add level book
        </Button>
        {BY_HAND.map((kind) => (
          <Button
            key={kind}
            variant="outlined"
            onClick={() => {
              apply("sight.new", [{ kind: "add_sight", way: kind }]);
              onDone();
            }}
          >
            {WAYS[kind].start}
          </Button>
        ))}
      </Box>
      {(document.books ?? []).map((book, index) => (
        <LevelBook
          key={book.id}
          {...{ document, book, index, faults, edit, onDone }}
          report={ground.books.find((one) => one.id === book.id)}
        />
      ))}
      {(document.sights ?? []).map((sight, index) => (
        <SightCard key={sight.id} {...{ document, sight, index, ground, flows, faults, edit, onDone }} />
      ))}
    </>
  );
}
