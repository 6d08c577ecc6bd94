import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Design, Fault } from "../../api/types";
import { PageBar } from "../../shared/PageBar";
import { Unreached } from "../../shared/Unreached";
import { useKeptForField } from "../../shared/useKeptForField";
import { usePartsNeeded } from "../../shared/usePartsNeeded";
import { FirstWater } from "./FirstWater";
import { Floats } from "./Floats";
import { Holes } from "./Holes";
import { JobSheet } from "./JobSheet";
import { Laying } from "./Laying";
import { Winter } from "./Winter";
import { Work } from "./Work";

export interface BuildProps {
  designId: string;
  document: Design;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  /** Show a part of the plan where it stands. */
  onShow: (id: string) => void;
  /** the revision that the plan is of, and whether nothing was changed since */
  revision: { number: number; isSaved: boolean };
}

const PAGES = [
  { value: "work", text: "Work" },
  { value: "laying", text: "Laying" },
  { value: "holes", text: "Holes" },
  { value: "floats", text: "Floats" },
  { value: "water", text: "First water" },
  { value: "winter", text: "Winter" },
] as const;

type Page = (typeof PAGES)[number]["value"];

/** From parts to a line that runs: the order of work, laying, drilling, setting the floats; all of it on paper. */
export function Build(props: BuildProps) {
  const { document, revision } = props;
  useKeptForField(props.designId, document);
  const [page, setPage] = useState<Page>("work");
  const needed = usePartsNeeded(document);
  return (
    <>
      <Unreached />
      <PageBar<Page> page={page} pages={PAGES} onChange={setPage}>
        {page === "work" && <JobSheet document={document} revision={revision} />}
      </PageBar>
      {page === "winter" ? (
        <Winter {...props} />
      ) : page === "water" ? (
        <FirstWater {...props} />
      ) : page === "floats" ? (
        <Floats {...props} />
      ) : !needed ? (
        <Typography variant="h1" sx={{ p: 4 }}>
          Working out what the plan needs …
        </Typography>
      ) : page === "work" ? (
        <Work needed={needed} />
      ) : page === "laying" ? (
        <Laying {...props} needed={needed} />
      ) : (
        <Holes {...props} needed={needed} />
      )}
    </>
  );
}
