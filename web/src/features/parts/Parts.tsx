import Typography from "@mui/material/Typography";
import { useState, type ReactNode } from "react";

import type { Design, Fault, Remedy } from "../../api/types";
import { PageBar } from "../../shared/PageBar";
import { usePartsNeeded } from "../../shared/usePartsNeeded";
import { Compare } from "./Compare";
import { Costs } from "./Costs";
import { Joints } from "./Joints";
import { ShoppingList } from "./ShoppingList";

export interface PartsProps {
  document: Design;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  /** Show a part of the plan where it stands. */
  onShow: (id: string) => void;
  /** Try a change of the plan, to be kept or not. */
  onTry: (change: Pick<Remedy, "patch" | "text_words">) => void;
}

const PAGES = [
  { value: "list", text: "Shopping list" },
  { value: "costs", text: "Costs" },
  { value: "joints", text: "Joints" },
  { value: "compare", text: "Compare" },
  { value: "catalogue", text: "Catalogue" },
] as const;

type Page = (typeof PAGES)[number]["value"];

/** What the plan needs: what to buy, how it goes together, what else would do; and what is sold, which is given. */
export function Parts({ catalogue, ...figures }: PartsProps & { catalogue: ReactNode }) {
  const { document } = figures;
  const [page, setPage] = useState<Page>("list");
  const shown = usePartsNeeded(document);
  return (
    <>
      <PageBar<Page> page={page} pages={PAGES} onChange={setPage} />
      {page === "catalogue" ? (
        catalogue
      ) : !shown ? (
        <Typography variant="h1" sx={{ p: 4 }}>
          Working out what the plan needs …
        </Typography>
      ) : page === "list" ? (
        <ShoppingList {...figures} needed={shown} onPage={setPage} />
      ) : page === "costs" ? (
        <Costs {...figures} needed={shown} />
      ) : page === "compare" ? (
        <Compare {...figures} />
      ) : (
        <Joints {...figures} needed={shown} />
      )}
    </>
  );
}
