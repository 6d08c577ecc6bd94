import { useSearchParams } from "react-router";

import { PageBar } from "../../shared/PageBar";
import { Unreached } from "../../shared/Unreached";
import { useKeptForField } from "../../shared/useKeptForField";
import { DailyLook } from "./DailyLook";
import { Entries, type LogProps } from "./Entries";
import { Ledger } from "./Ledger";
import { Levels } from "./Levels";
import { Measured } from "./Measured";
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
] as const;

type Page = (typeof PAGES)[number]["value"];

/** The memory of the real line: what was noted, and the round on which it is looked at. */
export function Log(props: LogProps) {
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
      {page === "ledger" && <Ledger {...props} />}
    </>
  );
}
