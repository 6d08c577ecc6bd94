import { useSearchParams } from "react-router";

import type { Design, Fault } from "../../api/types";
import { PageBar } from "../../shared/PageBar";
import { Unreached } from "../../shared/Unreached";
import { useKeptForField } from "../../shared/useKeptForField";
import { DailyLook } from "./DailyLook";
import { Entries, type LogProps } from "./Entries";
import { Ledger } from "./Ledger";
import { Levels } from "./Levels";
import { Measured } from "./Measured";
import { Mixing } from "./Mixing";
import { Trouble } from "./Trouble";
import { Upkeep } from "./Upkeep";

const PAGES = [
  { value: "entries", text: "Log" },
  { value: "look", text: "Daily look" },
  { value: "trouble", text: "Trouble" },
  { value: "measured", text: "Measured" },
  { value: "levels", text: "Levels" },
  { value: "upkeep", text: "Upkeep" },
  { value: "ledger", text: "Ledger" },
  { value: "mixing", text: "Mixing" },
] as const;

type Page = (typeof PAGES)[number]["value"];

/** What changes the recipes of the plan. */
export interface Mixes {
  document: Design;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** The memory of the real line: what was noted, and the round on which it is looked at. */
export function Log(props: LogProps & Mixes) {
  useKeptForField(props.designId, props.document);
  const [asked, setAsked] = useSearchParams();
  const page = PAGES.find(({ value }) => value === asked.get("page"))?.value ?? "entries";
  return (
    <>
      <Unreached />
      <PageBar<Page>
        page={page}
        pages={PAGES}
        onChange={(chosen) => setAsked({ page: chosen }, { replace: true })}
      />
      {page === "entries" && <Entries {...props} />}
      {page === "look" && <DailyLook designId={props.designId} document={props.document} />}
      {page === "trouble" && <Trouble {...props} />}
      {page === "measured" && <Measured {...props} />}
      {page === "levels" && <Levels {...props} />}
      {page === "upkeep" && <Upkeep {...props} />}
      {page === "mixing" && <Mixing {...props} />}
      {page === "ledger" && <Ledger {...props} />}
    </>
  );
}
