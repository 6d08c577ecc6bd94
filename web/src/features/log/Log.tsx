import Box from "@mui/material/Box";
import { useState } from "react";

import { OneOf } from "../../shared/OneOf";
import { DailyLook } from "./DailyLook";
import { Entries, type LogProps } from "./Entries";

const PAGES = [
  { value: "entries", text: "Log" },
  { value: "look", text: "Daily look" },
] as const;

type Page = (typeof PAGES)[number]["value"];

/** The memory of the real line: what was noted, and the round on which it is looked at. */
export function Log(props: LogProps) {
  const [page, setPage] = useState<Page>("entries");
  return (
    <>
      <Box sx={{ px: 4, pt: 3, displayPrint: "none" }}>
        <OneOf<Page> name="Which page" value={page} options={PAGES} onChange={setPage} />
      </Box>
      {page === "entries" ? (
        <Entries {...props} />
      ) : (
        <DailyLook designId={props.designId} document={props.document} />
      )}
    </>
  );
}
