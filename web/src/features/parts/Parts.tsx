import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState, type ReactNode } from "react";

import { listParts } from "../../api/client";
import type { Design, Fault, Remedy } from "../../api/types";
import { OneOf } from "../../shared/OneOf";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import { Compare } from "./Compare";
import { Floats } from "./Floats";
import { Holes } from "./Holes";
import { JobSheet } from "./JobSheet";
import { Joints } from "./Joints";
import { Laying } from "./Laying";
import { ShoppingList } from "./ShoppingList";

export interface PartsProps {
  document: Design;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  /** Show a part of the plan where it stands. */
  onShow: (id: string) => void;
  /** the revision that the plan is of, and whether nothing was changed since */
  revision: { number: number; isSaved: boolean };
  /** Try a change of the plan, to be kept or not. */
  onTry: (change: Pick<Remedy, "patch" | "text_words">) => void;
}

const PAGES = [
  { value: "list", text: "Shopping list" },
  { value: "joints", text: "Joints" },
  { value: "holes", text: "Holes" },
  { value: "floats", text: "Floats" },
  { value: "laying", text: "Laying" },
  { value: "compare", text: "Compare" },
  { value: "catalogue", text: "Catalogue" },
] as const;

type Page = (typeof PAGES)[number]["value"];

/** What the plan needs: what to buy, how it goes together, how it is laid; and what is sold, which is given. */
export function Parts({ catalogue, ...figures }: PartsProps & { catalogue: ReactNode }) {
  const { document } = figures;
  const [page, setPage] = useState<Page>("list");
  const needed = useSettled(["parts"], document, document, (asked: Design, signal) =>
    listParts(asked, signal),
  );
  const shown = useKept(needed);
  return (
    <>
      <Box
        sx={{
          px: 4,
          pt: 3,
          displayPrint: "none",
          display: "flex",
          flexWrap: "wrap",
          alignItems: "center",
          columnGap: 6,
          rowGap: 2,
        }}
      >
        <OneOf<Page> name="Which page" value={page} options={PAGES} onChange={setPage} />
        <JobSheet document={document} revision={figures.revision} />
      </Box>
      {page === "catalogue" ? (
        catalogue
      ) : !shown ? (
        <Typography variant="h1" sx={{ p: 4 }}>
          Working out what the plan needs …
        </Typography>
      ) : page === "list" ? (
        <ShoppingList {...figures} needed={shown} onPage={setPage} />
      ) : page === "joints" ? (
        <Joints {...figures} needed={shown} />
      ) : page === "compare" ? (
        <Compare {...figures} />
      ) : page === "floats" ? (
        <Floats {...figures} />
      ) : page === "holes" ? (
        <Holes {...figures} needed={shown} />
      ) : (
        <Laying {...figures} needed={shown} />
      )}
    </>
  );
}
