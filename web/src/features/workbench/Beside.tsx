import { useDeferredValue } from "react";

import type { Analysis, Finding } from "../../api/types";
import type { shownRoutes } from "../../shared/route";
import { Findings } from "../finding";
import { Soundings } from "../sounding";
import { SideColumn, type Details } from "./SideColumn";
import { useBench } from "./store";

type FindingsProps = Parameters<typeof Findings>[0];

interface Props extends Pick<FindingsProps, "view" | "currency" | "complete" | "onRemedy" | "onTry"> {
  analysis: Analysis | null;
  /** null in views that choose nothing */
  details: Details | null;
  findings: Finding[] | null;
  /** what is listed until the rest of the findings is here */
  listed: Finding[];
  routes: ReturnType<typeof shownRoutes>;
  nameOf: Parameters<typeof Soundings>[0]["nameOf"];
  old: boolean;
}

/** What stands beside a view of the plan: the part that is chosen, where the pressure goes, the findings. */
export function Beside({ analysis, details, findings, listed, routes, nameOf, old, ...rest }: Props) {
  const { setSide, select, point } = useBench.getState();
  // the plan and the numbers come first while something is dragged
  const soundRoutes = useDeferredValue(routes);
  const shown = useBench((state) => state.side);
  return (
    <SideColumn
      side={shown}
      onSide={setSide}
      details={details}
      old={old}
      soundings={analysis && details && <Soundings routes={soundRoutes} nameOf={nameOf} onSelect={select} />}
      count={findings?.length ?? null}
      findings={analysis && <Findings analysis={analysis} findings={listed} onShow={point} {...rest} />}
    />
  );
}
