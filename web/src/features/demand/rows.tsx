/** The lines of the demand: who, how many, each, a day, where, and how it goes. */
import type { Finding, HerdDemand, Watering } from "../../api/types";
import { nameIn, named, troughName } from "../../shared/names";
import type { OverviewRow } from "../../shared/Overview";
import { quantityText, type System } from "../../shared/units";
import { Marked, WorstFinding } from "../../shared/WorstFinding";
import { ContainerRow } from "./ContainerRow";
import { CropSheet } from "./CropSheet";
import type { DemandProps } from "./Demand";
import { HerdSheet } from "./HerdSheet";
import { seasonYear } from "./model";
import { OtherTold } from "./OtherTold";
import { Paddocks } from "./Paddocks";
import { PondSheet } from "./PondSheet";
import { Timers } from "./Timers";

export function demandRows(props: DemandProps, system: System): OverviewRow[] {
  const { document, analysis, rest, faults, edit, onDone } = props;
  const { demand } = analysis;
  const litres = (value: number) => quantityText({ value, unit: "L", digits: value < 10 ? 1 : 0 }, system);
  const figures = { document, faults, edit, onDone };
  const other = (kind: string, id: string) => demand.others.find((one) => one.kind === kind && one.id === id);
  const herds = (document.herds ?? []).map((herd, index): OverviewRow => {
    const report = demand.herds.find((one) => one.id === herd.id);
    const watering = rest?.watering.find((one) =>
      [...one.visits, ...one.near].some((at) => at.herd === herd.id),
    );
    const at = report?.outlets.length ? report.outlets : [herd.outlet];
    return {
      id: herd.id,
      name: named(herd),
      cells: [
        String(report?.head ?? herd.head),
        report ? litres(report.per_head_lpd) : "",
        report ? litres(report.daily_l) : "",
        at.map((one) => troughName(document, one)).join(", then "),
        (report?.paddocks ?? []).map((id) => nameIn(document.paddocks, id)).join(", then "),
        <HerdState key="state" {...{ props, at, report, watering, system }} />,
      ],
      content: () => (
        <HerdSheet
          {...figures}
          catalogue={props.catalogue}
          herd={herd}
          index={index}
          report={report}
          moved={demand.others.find((one) => one.kind === "move" && one.herd === herd.id)}
          watering={watering}
          waiting={rest === null}
        />
      ),
    };
  });
  const crops = (document.crops ?? []).map((crop, index): OverviewRow => {
    const report = other("crop", crop.id);
    const each = crop.plants && report ? litres(report.daily_l / crop.plants) : "";
    return {
      id: crop.id,
      name: named(crop),
      cells: [
        crop.plants != null ? String(crop.plants) : "",
        each,
        report ? litres(report.daily_l) : "",
        troughName(document, crop.outlet),
        "",
        <State key="state" findings={props.findings} where={[crop.outlet]} fine="" />,
      ],
      content: () => <CropSheet {...figures} index={index} report={report} />,
    };
  });
  const ponds = (document.ponds ?? []).map((pond, index): OverviewRow => {
    const report = other("pond", pond.vessel);
    const where = (document.outlets ?? []).filter((one) => one.fills === pond.vessel).map((one) => one.id);
    return {
      id: pond.vessel,
      name: nameIn(document.vessels, pond.vessel),
      cells: [
        "",
        "",
        report ? litres(report.daily_l) : "",
        where.map((one) => troughName(document, one)).join(", "),
        "",
        <State key="state" findings={props.findings} where={[pond.vessel, ...where]} fine="" />,
      ],
      content: () => <PondSheet {...figures} demand={demand} index={index} report={report} />,
    };
  });
  const leaks = demand.others
    .filter((one) => one.kind === "leak")
    .map((one): OverviewRow => ({
      id: `leak-${one.id}`,
      name: one.name,
      cells: ["", "", litres(one.daily_l), troughName(document, one.where), "", "runs over in this case"],
      content: () => <OtherTold report={one} />,
    }));
  const year = seasonYear(document);
  const containers = demand.rows.map((row): OverviewRow => ({
    id: `row-${row.outlet}`,
    name: `Containers at ${troughName(document, row.outlet)}`,
    cells: ["", "", "", troughName(document, row.outlet), "", ""],
    content: () => <ContainerRow {...figures} row={row} year={year} />,
  }));
  return [...herds, ...crops, ...ponds, ...leaks, ...containers, ...timers(props), ...paddocks(props)];
}

function timers({ document, analysis, rest, faults, edit, onDone }: DemandProps): OverviewRow[] {
  if (!document.crops?.length) return [];
  const clashes = rest?.clashes.length ?? 0;
  return [
    {
      id: "timers",
      name: "Timers",
      cells: [
        String(document.timers?.length ?? 0),
        "",
        "",
        "",
        "",
        clashes > 0 ? (
          <Marked key="state" standing="watch" text={clashes === 1 ? "1 clash" : `${clashes} clashes`} />
        ) : (
          ""
        ),
      ],
      content: () => <Timers {...{ document, demand: analysis.demand, rest, faults, edit, onDone }} />,
    },
  ];
}

function paddocks({ document, faults, edit, onDone }: DemandProps): OverviewRow[] {
  if (!document.outlets?.length || !(document.herds?.length || document.paddocks?.length)) return [];
  return [
    {
      id: "paddocks",
      name: "Paddocks",
      cells: [String(document.paddocks?.length ?? 0), "", "", "", "", ""],
      content: () => <Paddocks {...{ document, faults, edit, onDone }} />,
    },
  ];
}

interface HerdStateProps {
  props: DemandProps;
  at: string[];
  report: HerdDemand | undefined;
  watering: Watering | undefined;
  system: System;
}

function HerdState({ props, at, report, watering, system }: HerdStateProps) {
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const lowest =
    watering?.lowest_l != null && watering.holds_l != null
      ? `lowest ${litres(watering.lowest_l)} of ${litres(watering.holds_l)}`
      : "";
  const full =
    watering?.recovered_min != null
      ? `full again in ${quantityText({ value: watering.recovered_min, unit: "min" }, system)}`
      : "";
  const told = [lowest, full].filter(Boolean).join(", ");
  const judged = watering && report && report.head > 0;
  return <State findings={props.findings} where={at} fine={told || (judged ? "enough" : "")} />;
}

/** The worst finding about what stands here; where there is none, how it goes. */
function State({ findings, where, fine }: { findings: Finding[]; where: string[]; fine: string }) {
  const own = findings.filter((one) => one.code !== "figures-assumed" && where.includes(one.where));
  return <WorstFinding findings={own} fine={fine} />;
}
