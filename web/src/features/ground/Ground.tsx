import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Analysis, Design, Fault } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { usePreferences } from "../../shared/preferences";
import { PictureTable } from "../../shared/PictureTable";
import { quantityText } from "../../shared/units";
import { LevelBook } from "./LevelBook";
import { newBook } from "./model";

interface Props {
  document: Design;
  analysis: Analysis;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Heights as people get them: level books that reduce themselves, and how good each place's height is. */
export function Ground({ document, analysis, faults, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const metres = (value: number) => quantityText({ value, unit: "m" }, system);
  return (
    <Box sx={{ p: 5, maxWidth: 960 }}>
      <Typography variant="h1">Ground: {document.places.length} places with a height</Typography>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        The head is a difference of heights. Begin a book at a place whose height you trust, and come back to
        it: what it misses by tells how good the rest is.
      </Typography>
      <PictureTable
        title="Heights of the places, and how good they are,"
        head={["Place", "Ground", "Good to", "From"]}
        rows={document.places.map((place) => [
          place.name ?? place.id,
          metres(place.ground_m),
          place.height_error_m == null ? "not said" : `± ${metres(place.height_error_m)}`,
          place.height_from ?? "not said",
        ])}
      />
      {(document.books ?? []).map((book, index) => (
        <LevelBook
          key={book.id}
          {...{ document, book, index, faults, edit, onDone }}
          report={analysis.ground.books.find((one) => one.id === book.id)}
        />
      ))}
      <Button
        variant="outlined"
        sx={{ my: 3 }}
        onClick={() => {
          edit("book.new", (draft) => void (draft.books = [...(draft.books ?? []), newBook(draft)]));
          onDone();
        }}
      >
        Start a level book
      </Button>
      <Caution>
        Before you dig, call the utility locating service; keep a staff away from overhead lines.
      </Caution>
    </Box>
  );
}
