/** The lines of the supply: what each source brings and each store holds, and how it stands. */
import Typography from "@mui/material/Typography";

import type { SeasonRun, StandbyTold } from "../../api/types";
import { nameIn, named } from "../../shared/names";
import type { OverviewRow } from "../../shared/Overview";
import { figure, quantityText, type System } from "../../shared/units";
import { Marked, WorstFinding } from "../../shared/WorstFinding";
import { Given } from "../sheet";
import { Compare } from "./Compare";
import { InflowSheet } from "./InflowSheet";
import { KINDS } from "./inflow";
import { Season } from "./Season";
import { STANDBY } from "./standby";
import { StandbySheet } from "./StandbySheet";
import { StoreSheet } from "./StoreSheet";
import type { SupplyProps } from "./Supply";

const PRESSED = { mains: "mains", well: "well with a pressure tank", ram: "ram pump" } as const;

export function supplyRows(
  props: SupplyProps,
  season: SeasonRun | null,
  told: StandbyTold[],
  system: System,
): OverviewRow[] {
  const { document, analysis, faults, edit, onDone } = props;
  const { supply } = analysis;
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const inflows = document.inflows ?? [];
  const sources = inflows.map((inflow, index): OverviewRow => {
    const report = supply.inflows.find((one) => one.id === inflow.id);
    const own = props.findings.filter((one) => one.inflow === inflow.id);
    return {
      id: inflow.id,
      name: named(inflow),
      cells: [
        KINDS.find((one) => one.kind === inflow.kind)?.text ?? "",
        report ? litres(report.daily_l) : "",
        "",
        nameIn(document.vessels, inflow.fills),
        <WorstFinding key="state" findings={own} fine={report && report.daily_l > 0 ? "runs" : ""} />,
      ],
      content: () => (
        <InflowSheet
          {...{ document, givers: analysis.givers, inflow, index, faults, edit, onDone }}
          report={report}
        />
      ),
    };
  });
  const pressed = (document.pressure_sources ?? []).map((source): OverviewRow => {
    const report = supply.pressure_sources.find((one) => one.id === source.id);
    const own = props.findings.filter((one) => one.where === source.id);
    const line = document.lines?.find((one) => one.from === source.id);
    return {
      id: source.id,
      name: named(source),
      cells: [
        PRESSED[source.kind],
        report ? litres(report.daily_l) : "",
        "",
        line ? named(line) : "no line begins at it yet",
        <WorstFinding key="state" findings={own} fine={report && report.given_lpm > 0 ? "runs" : ""} />,
      ],
      content: () => (
        <>
          <Given document={document} analysis={analysis} id={source.id} />
          <Typography variant="body2" color="text.secondary">
            Its figures are in the details beside the plan, under Lines.
          </Typography>
        </>
      ),
    };
  });
  const stores = supply.stores.map((store): OverviewRow => {
    const own = props.findings.filter(
      (one) => one.inflow === null && one.where === store.vessel && !one.code.startsWith("standby-"),
    );
    return {
      id: store.vessel,
      name: nameIn(document.vessels, store.vessel),
      cells: [
        "store",
        "",
        litres(store.usable_l),
        "",
        <WorstFinding key="state" findings={own} fine={fullness(store.full_share)} />,
      ],
      content: () => <StoreSheet {...{ document, supply, store }} />,
    };
  });
  const standbys = (document.standbys ?? []).map((standby, index): OverviewRow => {
    const own = props.findings.filter(
      (one) => one.code.startsWith("standby-") && one.where === standby.fills,
    );
    return {
      id: standby.id,
      name: named(standby),
      cells: [
        STANDBY.kind,
        "",
        litres(standby.holds_l),
        nameIn(document.vessels, standby.fills),
        <WorstFinding key="state" findings={own} fine="stands by" />,
      ],
      content: () => (
        <StandbySheet
          {...{ document, index, faults, edit, onDone }}
          told={told.find((one) => one.id === standby.id)}
        />
      ),
    };
  });
  return [
    ...sources,
    ...pressed,
    ...stores,
    ...standbys,
    {
      id: "season",
      name: "Season and weather",
      cells: ["", "", "", "", <SeasonState key="state" season={season} />],
      content: () => <Season {...{ document, season, edit, onDone }} />,
    },
    {
      id: "compare",
      name: "A year against another plan",
      cells: ["", "", "", "", ""],
      content: () => <Compare document={document} />,
    },
  ];
}

const fullness = (share: number | null) =>
  share === null ? "" : `level ${figure(100 * share, 0)} % of full`;

function SeasonState({ season }: { season: SeasonRun | null }) {
  if (!season) return <>no weather yet</>;
  const met = season.cautious.days_share >= season.wanted_share;
  return (
    <Marked
      standing={met ? "fine" : "fix"}
      text={`enough on ${figure(100 * season.cautious.days_share, 1)} % of ${season.days} days`}
    />
  );
}
