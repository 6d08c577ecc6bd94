import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { readLedger } from "../../api/field";
import type { Design, Ledger as Told } from "../../api/types";
import { DayField } from "../../shared/DayField";
import { note, useQueue } from "../../shared/logQueue";
import { newEntry } from "../../shared/newEntry";
import { priceText } from "../../shared/price";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { QueueTold } from "../../shared/QueueTold";
import { TABLE } from "../../shared/rowTable";
import { today } from "../../shared/today";
import { quantityText } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import type { LogProps } from "./Entries";
import { paybackText } from "./payback";

interface Asked {
  document: Design;
  begun: string | null;
  wage: number;
  price: number | null;
}

/** Litres, trips, hours and money before the line and since, and when it has paid for itself. */
export function Ledger({ designId, document }: LogProps) {
  const taken = useQueue((queue) => queue.taken);
  const currency = document.site.currency ?? "USD";
  const [asked, setAsked] = useState<Asked>({ document, begun: null, wage: 0, price: null });
  if (asked.document !== document) setAsked({ ...asked, document });
  const told = useKept(
    useSettled(
      ["ledger", designId, taken, today()],
      asked,
      asked,
      ({ document: of, ...how }: Asked, signal) =>
        readLedger(designId, { document: of, today: today(), ...how }, signal),
    ),
  );
  return (
    <Box component="section" aria-label="Ledger" sx={{ maxWidth: 720 }}>
      <Box sx={{ p: 4 }}>
        <Typography variant="h1">Ledger</Typography>
        <TripForm designId={designId} currency={currency} />
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 3, my: 3, "& > *": { width: 170 } }}>
          <Box>
            <DayField
              label="The line runs since"
              value={asked.begun ?? told?.begun ?? ""}
              onChange={(begun) => setAsked({ ...asked, begun })}
            />
          </Box>
          <Box>
            <QuantityField
              label={`An hour is worth, ${currency}`}
              family="count"
              digits={2}
              value={asked.wage}
              onChange={(wage) => setAsked({ ...asked, wage })}
            />
          </Box>
          <Box>
            <QuantityField
              label={`The line cost, ${currency}`}
              family="count"
              digits={2}
              value={asked.price ?? told?.planned_price ?? null}
              onChange={(price) => setAsked({ ...asked, price })}
              onClear={() => setAsked({ ...asked, price: null })}
              hint={asked.price === null ? "the plan's parts" : undefined}
            />
          </Box>
        </Box>
        {told && <Sums told={told} />}
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}

function Sums({ told }: { told: Told }) {
  const { system } = usePreferences();
  const rows = [
    ["Before the line", told.before] as const,
    ["Since", told.after] as const,
    ...told.months.map(({ month, totals }) => [month, totals] as const),
  ];
  return (
    <>
      <Typography role="status" sx={{ fontWeight: 700 }} data-testid="payback">
        {paybackText(told)}
      </Typography>
      <Box sx={{ overflowX: "auto", mt: 2 }} tabIndex={0} role="region" aria-label="Sums">
        <Box component="table" sx={TABLE}>
          <thead>
            <tr>
              {["When", "Trips", "Hauled", "Hours", "Paid", "A day"].map((text) => (
                <th key={text} scope="col" className={text === "When" ? undefined : "figure"}>
                  {text}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([name, sums]) => (
              <tr key={name}>
                <th scope="row">
                  {name}
                  {sums.days > 0 && <span className="aside">{sums.days} days</span>}
                </th>
                <td className="figure">{sums.trips}</td>
                <td className="figure">{quantityText({ value: sums.litres, unit: "L" }, system)}</td>
                <td className="figure">{sums.hours.toFixed(1)}</td>
                <td className="figure">
                  {priceText(sums.money || 0, told.currency).replace("nothing to buy", "–")}
                </td>
                <td className="figure">
                  {sums.per_day == null ? "–" : priceText(sums.per_day, told.currency)}
                </td>
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </>
  );
}

/** A trip with water: how much, how long, what was paid. */
function TripForm({ designId, currency }: { designId: string; currency: string }) {
  const who = usePreferences((state) => state.name);
  const [litres, setLitres] = useState<number | null>(null);
  const [times, setTimes] = useState<Record<string, number>>({});
  const [paid, setPaid] = useState<Record<string, number>>({});
  const time = (key: string, label: string) => (
    <QuantityField
      label={label}
      family="min"
      digits={0}
      value={times[key] ?? null}
      onChange={(value) => setTimes({ ...times, [key]: value })}
      onClear={() => setTimes(without(times, key))}
    />
  );
  const money = (key: string, label: string) => (
    <QuantityField
      label={`${label}, ${currency}`}
      family="count"
      digits={2}
      value={paid[key] ?? null}
      onChange={(value) => setPaid({ ...paid, [key]: value })}
      onClear={() => setPaid(without(paid, key))}
    />
  );
  const keep = async () => {
    if (litres === null) return;
    await note(designId, newEntry({ kind: "trip", figures: { litres, ...times, ...paid } }, who));
    setLitres(null);
    setTimes({});
    setPaid({});
  };
  return (
    <Box component="section" aria-label="A trip with water" sx={{ my: 3 }}>
      <Typography variant="h2">A trip with water</Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 3, "& > *": { width: 130 } }}>
        <Box>
          <QuantityField
            label="Hauled"
            family="L"
            digits={0}
            value={litres}
            onChange={setLitres}
            onClear={() => setLitres(null)}
          />
        </Box>
        <Box>{time("minutes", "On the way")}</Box>
        <Box>{time("fill_min", "Filling")}</Box>
        <Box>{time("empty_min", "Pumping out")}</Box>
        <Box>{money("fuel_money", "Fuel")}</Box>
        <Box>{money("water_money", "Metered water")}</Box>
      </Box>
      <Button
        variant="contained"
        sx={{ minHeight: 48, px: 4, mt: 2 }}
        disabled={litres === null || litres < 1}
        onClick={() => void keep()}
      >
        Note the trip
      </Button>
    </Box>
  );
}

function without(figures: Record<string, number>, key: string): Record<string, number> {
  return Object.fromEntries(Object.entries(figures).filter(([name]) => name !== key));
}
