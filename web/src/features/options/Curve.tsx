import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";
import { useState } from "react";

import type { Job, SizedPlan } from "../../api/types";
import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { saidText } from "../../shared/saidText";
import { figure } from "../../shared/units";
import { useSize } from "../../shared/useSize";

const HEIGHT = 230;
const MARGIN = { left: 64, right: 24, top: 18, bottom: 38 };

interface Props {
  curve: NonNullable<Job["curve"]>;
  onTake: (plan: SizedPlan, called: string) => void;
  /** how a place along the curve is said */
  said?: (at: number) => string;
  /** what lies along it */
  along?: string;
  /** what is said where there is one point only */
  alone?: string;
  /** where nothing fits */
  beyond?: string;
  /** what one that is kept is called */
  called?: (at: number) => string;
}

const percent = (share: number) => `${figure(100 * share, 0)} %`;

/** The cheapest plans from little flow to the most there can be; each can be looked at and kept as an option. */
export function Curve({
  curve,
  onTake,
  said = percent,
  along = "of every flow that is required",
  alone,
  beyond = "For more, nothing fits",
  called = (at) => `${percent(at)} of the flow`,
}: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const { points } = curve;
  const [chosen, setChosen] = useState<number | null>(null);
  const one = points[chosen ?? points.findIndex((point) => point.at >= 1)] ?? points.at(-1);
  if (!one) return <Typography>Nothing fits anywhere along it: {curve.ends}.</Typography>;
  if (points.length === 1 && alone) return <Typography sx={{ my: 2 }}>{alone}</Typography>;
  const costs = points.map((point) => point.plan.cost);
  const shares = points.map((point) => point.at);
  const x = scaleLinear(
    [Math.min(...shares), Math.max(...shares, 1)],
    [MARGIN.left, size.width - MARGIN.right],
  );
  const y = scaleLinear([0, Math.max(...costs, 1) * 1.08], [HEIGHT - MARGIN.bottom, MARGIN.top]);
  const currency = one.plan.currency;
  return (
    <Box data-testid="curve">
      <Box ref={box} sx={{ height: HEIGHT, maxWidth: 760 }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT}
            role="group"
            aria-label={`Cost of the cheapest plan: ${along}`}
            style={{ display: "block" }}
          >
            <g fontSize={11} fill={ink("faint")}>
              {y.ticks(4).map((cost) => (
                <g key={cost}>
                  <line
                    x1={MARGIN.left}
                    x2={size.width - MARGIN.right}
                    y1={y(cost)}
                    y2={y(cost)}
                    stroke={ink("rule")}
                  />
                  <text x={MARGIN.left - 6} y={y(cost) + 4} textAnchor="end">
                    {priceText(cost, currency).replace("nothing to buy", "0")}
                  </text>
                </g>
              ))}
              <text x={(MARGIN.left + size.width) / 2} y={HEIGHT - 1} textAnchor="middle">
                {along}
              </text>
            </g>
            <polyline
              points={points.map((point) => `${x(point.at)},${y(point.plan.cost)}`).join(" ")}
              fill="none"
              stroke={ink("deep")}
              strokeWidth={1.5}
              strokeDasharray="2 4"
            />
            {points.map((point, index) => (
              <g
                key={point.at}
                role="button"
                tabIndex={0}
                aria-pressed={point === one}
                aria-label={`${called(point.at)} for ${priceText(point.plan.cost, currency)}`}
                onClick={() => setChosen(index)}
                onKeyDown={(event) => {
                  if (event.key === "Enter" || event.key === " ") {
                    event.preventDefault();
                    setChosen(index);
                  }
                }}
                style={{ cursor: "pointer" }}
              >
                <circle cx={x(point.at)} cy={y(point.plan.cost)} r={16} fill="transparent" />
                <circle
                  cx={x(point.at)}
                  cy={y(point.plan.cost)}
                  r={point === one ? 8 : 5}
                  fill={point.plan.proven_gap === 0 ? ink("deep") : ink("paper")}
                  stroke={ink("deep")}
                  strokeWidth={2}
                />
                <text
                  x={x(point.at)}
                  y={HEIGHT - MARGIN.bottom + 17}
                  textAnchor="middle"
                  fontSize={11}
                  fill={ink("ink")}
                >
                  {said(point.at)}
                </text>
              </g>
            ))}
          </svg>
        )}
      </Box>
      <Typography sx={{ fontSize: 13, color: ink("faint") }}>
        Full dots are proven to be the cheapest; hollow ones are the best that was found.
      </Typography>
      <Typography component="p" data-testid="curve-told" sx={{ my: 1 }}>
        {called(one.at)} for <strong>{priceText(one.plan.cost, currency)}</strong>:{" "}
        {one.plan.rows
          .filter((row) => row.changed)
          .map((row) => `${row.name} ${saidText(row.then, system)}`)
          .join(", ") || "as the plan is"}
        .
      </Typography>
      <Button variant="outlined" onClick={() => onTake(one.plan, called(one.at))}>
        Keep this one as an option
      </Button>
      {curve.ends && (
        <Typography sx={{ my: 1, fontSize: 13 }}>
          {beyond}: {curve.ends}.
        </Typography>
      )}
      <Surely curve={curve} onTake={onTake} />
      <PictureTable
        title="Curve"
        head={[along, "Cost", "Cheaper by at most"]}
        rows={points.map((point) => [
          said(point.at),
          priceText(point.plan.cost, currency),
          point.plan.proven_gap === 0 ? "proven" : percent(point.plan.proven_gap),
        ])}
      />
    </Box>
  );
}

/** What it costs to be sure of every flow, and so what measuring better may save. */
function Surely({ curve, onTake }: Props) {
  const { surely, surely_not: not } = curve;
  const likely = curve.points.find((point) => point.at >= 1)?.plan;
  if (not)
    return (
      <Typography sx={{ my: 2 }} data-testid="surely-told">
        <strong>To be sure of every flow:</strong> {not}. Measuring heights better makes the range smaller.
      </Typography>
    );
  if (!surely) return null;
  const more = likely ? surely.cost - likely.cost : 0;
  return (
    <Box sx={{ my: 2 }}>
      <Typography data-testid="surely-told">
        <strong>To be sure of every flow</strong>, also at the worse end of what heights and bores leave:{" "}
        {priceText(surely.cost, surely.currency)}
        {more > 0
          ? `, ${priceText(more, surely.currency)} more. That much a better survey may save: Ground says what to measure next.`
          : ", no more than without."}
      </Typography>
      <Button variant="outlined" onClick={() => onTake(surely, "surely")} sx={{ my: 1 }}>
        Keep the sure one as an option
      </Button>
    </Box>
  );
}
