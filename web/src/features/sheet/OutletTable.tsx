import Box from "@mui/material/Box";
import { memo, useMemo } from "react";

import type { Analysis, Design, Run } from "../../api/types";
import { FOCUSED, ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { saidText } from "../../shared/saidText";
import { figure, digitsOf, shownUnit, toShown, type System } from "../../shared/units";

interface Props {
  outlets: Design["outlets"];
  requirements: Design["requirements"];
  analysis: Analysis;
  onSelect: (id: string) => void;
}

/** What every outlet gets: all running together, and each by itself, with how little and how much that may be. */
export const OutletTable = memo(function OutletTable({ outlets, requirements, analysis, onSelect }: Props) {
  const system = usePreferences((state) => state.system);
  const parts = useMemo(() => new Map(outlets?.map((one) => [one.id, one])), [outlets]);
  const wants = useMemo(
    () => new Map(requirements?.map((one) => [one.outlet, one.flow_lpm] as const).reverse()), // the first of each counts
    [requirements],
  );
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        fontSize: 13,
        "& th, & td": { textAlign: "right", py: 0.5, px: 1, verticalAlign: "top", fontWeight: 400 },
        "& th:first-of-type": { textAlign: "left", pl: 0 },
        "& tbody tr": { borderTop: `1px solid ${ink("rule")}` },
        "& thead th": { color: ink("faint"), fontSize: 12 },
        // plain elements: two hundred rows follow a hand that drags
        "& button": {
          all: "unset",
          cursor: "pointer",
          textDecoration: "underline",
          textDecorationColor: ink("faint"),
          "&:focus-visible": { ...FOCUSED, outlineOffset: 2 },
        },
      }}
    >
      <Box
        component="caption"
        sx={{ textAlign: "left", color: ink("faint"), fontSize: 12, captionSide: "bottom", pt: 2 }}
      >
        {shownUnit("L/min", system)}, as new (new pipe of its nominal bore, tanks as they stand now), and from
        worst to best over what is not known exactly: heights, bore, ageing, fittings, valves, levels.
      </Box>
      <thead>
        <tr>
          <th scope="col">Outlet</th>
          <th scope="col">wanted</th>
          <th scope="col">all running</th>
          <th scope="col">alone</th>
        </tr>
      </thead>
      <tbody>
        {analysis.routes.map((route) => {
          const outlet = parts.get(route.outlet);
          const wanted = wants.get(route.outlet) ?? (outlet?.kind === "fixed" ? outlet.flow_lpm : null);
          return (
            <tr key={route.outlet} data-testid={`outlet-row-${route.outlet}`}>
              <th scope="row">
                <button type="button" onClick={() => onSelect(route.outlet)}>
                  {outlet?.name ?? route.outlet}
                </button>
              </th>
              <td>{wanted === null ? "–" : flowText(wanted, system)}</td>
              <td>
                <Got run={route.together} wanted={wanted} system={system} />
              </td>
              <td>
                <Got run={route.alone} wanted={wanted} system={system} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </Box>
  );
});

const flowText = (lpm: number, system: System) =>
  figure(toShown(lpm, "L/min", system), digitsOf(lpm, "L/min", system));

/** A flow with its range beneath, or the state that takes its place. */
export function Got({ run, wanted, system }: { run: Run; wanted: number | null; system: System }) {
  const short =
    run.state === "short" || run.state === "dry" || (wanted !== null && run.flow_lpm < wanted - 5e-3);
  return (
    <span
      title={saidText(run.reason_words, system)}
      style={{ color: ink(short ? "short" : "ink"), whiteSpace: "nowrap" }}
    >
      {short ? "■ " : ""}
      {run.state === "running" || run.state === "short" ? flowText(run.flow_lpm, system) : run.state}
      {run.flow_range && (
        <small style={{ display: "block", fontSize: 11, color: ink("faint") }}>
          {flowText(run.flow_range.worst, system)}–{flowText(run.flow_range.best, system)}
        </small>
      )}
    </span>
  );
}
