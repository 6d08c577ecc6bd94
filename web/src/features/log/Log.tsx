import { useState } from "react";

import { PageBar } from "../../shared/PageBar";
import { DailyLook } from "./DailyLook";
import { Entries, type LogProps } from "./Entries";
import { Measured } from "./Measured";

const PAGES = [
  { value: "entries", text: "Log" },
  { value: "look", text: "Daily look" },
  { value: "measured", text: "Measured" },
] as const;

type Page = (typeof PAGES)[number]["value"];

/** The memory of the real line: what was noted, and the round on which it is looked at. */
export function Log(props: LogProps) {
  const [page, setPage] = useState<Page>("entries");
  return (
    <>
      <PageBar<Page> page={page} pages={PAGES} onChange={setPage} />
      {page === "entries" && <Entries {...props} />}
      {page === "look" && <DailyLook designId={props.designId} document={props.document} />}
      {page === "measured" && <Measured {...props} />}
    </>
  );
}
