import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";

import type { Costs as CostsOf, PartsNeeded } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { QuantityField } from "../../shared/QuantityField";
import { TABLE } from "../../shared/rowTable";
import { saidText } from "../../shared/saidText";
import type { Family } from "../../shared/units";
import { PriceBook } from "./PriceBook";
import type { PartsProps } from "./Parts";

interface Props extends PartsProps {
  needed: PartsNeeded;
}

type Figure =
  | "digging_per_m"
  | "kept_share"
  | "load_kg"
  | "machine_m_per_day"
  | "machine_per_day"
  | "stand_per_m_t"
  | "trip";

const DIGGING: { value: NonNullable<CostsOf["digging"]>; text: string }[] = [
  { value: "hired out", text: "by a contractor" },
  { value: "hired machine", text: "with a machine hired by the day" },
  { value: "by hand", text: "by hand, nobody is paid" },
];

/** What the plan costs as a whole, with figures of the site's own beside typical ones; the price book. */
export function Costs({ document, needed, faults, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const { whole, currency } = needed;
  const costs = document.costs ?? {};
  const put = (key: string, recipe: (own: CostsOf) => void) =>
    edit(`costs.${key}`, (draft) => {
      const own = { ...draft.costs };
      recipe(own);
      draft.costs = own;
    });
  const money = (price: number | null) =>
    price === null ? "not known" : price === 0 ? "nothing" : priceText(price, currency);
  const figure = (
    key: Figure,
    label: string,
    typical: number | null,
    options: { family?: Family; times?: number; digits?: number } = {},
  ) => {
    const { family = "count", times = 1, digits = 2 } = options;
    const own = costs[key] ?? null;
    return (
      <QuantityField
        key={key}
        label={label}
        family={family}
        digits={digits}
        value={own === null ? null : own * times}
        hint={
          own !== null
            ? undefined
            : typical === null
              ? `no typical figure in ${currency}`
              : `typical: ${+(typical * times).toFixed(2)}, assumed; please check`
        }
        fault={faultAt(faults, `/costs/${key}`)}
        onDone={onDone}
        onChange={(value) => put(key, (all) => void (all[key] = value / times))}
        onClear={() => put(key, (all) => void (all[key] = null))}
      />
    );
  };
  const digging = costs.digging ?? "hired out";
  return (
    <Box component="section" aria-label="Costs" sx={{ p: 4, maxWidth: 1150 }}>
      <Typography variant="h1">
        As a whole: <span data-testid="whole-price">{money(whole.price)}</span>
        {!whole.is_known && <small style={{ fontWeight: 400 }}> as far as it is known</small>}
      </Typography>
      <Box
        sx={{
          display: "grid",
          columnGap: 8,
          rowGap: 4,
          mt: 2,
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 360px" },
        }}
      >
        <Box>
          <Box component="table" sx={TABLE}>
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col" className="figure">
                  Costs
                </th>
                <th scope="col" className="figure">
                  Worth when lifted
                </th>
              </tr>
            </thead>
            <tbody>
              {whole.rows.map((row, number) => (
                <tr key={number} data-testid={`cost-${row.chapter}`}>
                  <th scope="row" className="part">
                    {saidText(row.told, system)}
                    {row.typical && row.price !== 0 && (
                      <span className="aside">typical prices are in it: please check</span>
                    )}
                  </th>
                  <td className="figure">{money(row.price)}</td>
                  <td className="figure">{row.lifted ? money(row.lifted) : "–"}</td>
                </tr>
              ))}
              <tr>
                <th scope="row">
                  <strong>All of it</strong>
                  {whole.unpriced > 0 && (
                    <span className="aside">
                      without {whole.unpriced} {whole.unpriced === 1 ? "part" : "parts"} of unknown price
                    </span>
                  )}
                </th>
                <td className="figure">
                  <strong>{money(whole.price)}</strong>
                </td>
                <td className="figure">{whole.lifted ? money(whole.lifted) : "–"}</td>
              </tr>
              {whole.per_lease_year !== null && (
                <tr data-testid="cost-lease">
                  <th scope="row">
                    <strong>A year of the lease</strong>
                    <span className="aside">
                      {whole.lease_years} years; what is lifted again counts, less {money(whole.taking_away)}{" "}
                      for bringing it away
                    </span>
                  </th>
                  <td className="figure">
                    <strong>{money(whole.per_lease_year)}</strong>
                  </td>
                  <td className="figure">–</td>
                </tr>
              )}
            </tbody>
          </Box>
          {whole.used.length > 0 && (
            <Box sx={{ mt: 3 }} data-testid="used-instead">
              <Typography variant="h2">Used instead of new</Typography>
              <ul style={{ margin: "4px 0", paddingLeft: 20 }}>
                {whole.used.map((one) => (
                  <li key={one.product_id}>
                    {one.name}: {money(one.used)} used, {money(one.new)} new
                    {one.is_taken ? ", counted used" : ""}
                  </li>
                ))}
              </ul>
            </Box>
          )}
          <Caution>{whole.practice.map((line) => saidText(line, system)).join(" ")}</Caution>
        </Box>
        <Box sx={{ display: "flex", flexDirection: "column", gap: 3 }}>
          <Typography variant="h2">What this site pays, in {currency}</Typography>
          <Choice
            label="Trenches are dug"
            value={digging}
            options={DIGGING}
            onChange={(value) =>
              put("digging", (all) => void (all.digging = value as NonNullable<CostsOf["digging"]>))
            }
          />
          {digging === "hired out" &&
            figure("digging_per_m", "A metre of trench, laid and closed", whole.typical.digging_per_m)}
          {digging === "hired machine" && (
            <>
              {figure("machine_per_day", "The machine for a day", whole.typical.machine_per_day)}
              {figure("machine_m_per_day", "Metres that it digs in a day", whole.typical.machine_m_per_day, {
                digits: 0,
              })}
            </>
          )}
          {figure("stand_per_m_t", "A metre of stand, for each tonne", whole.typical.stand_per_m_t)}
          {figure("trip", "Bringing one load", whole.typical.trip)}
          {figure("load_kg", "A load weighs at most", whole.typical.load_kg, { family: "kg", digits: 0 })}
          <QuantityField
            label="Years left of the lease"
            family="count"
            digits={1}
            value={costs.lease_years ?? null}
            hint={costs.lease_years ? undefined : "empty: the ground is your own"}
            fault={faultAt(faults, "/costs/lease_years")}
            onDone={onDone}
            onChange={(years) => put("lease_years", (all) => void (all.lease_years = years))}
            onClear={() => put("lease_years", (all) => void delete all.lease_years)}
          />
          {figure("kept_share", "Of its price, what is lifted again is worth [%]", whole.typical.kept_share, {
            times: 100,
            digits: 0,
          })}
          <FormControlLabel
            label="Buy used where that is cheaper"
            control={
              <Checkbox
                size="small"
                checked={!!costs.buy_used}
                onChange={(_, on) => put("buy_used", (all) => void (all.buy_used = on))}
              />
            }
          />
        </Box>
      </Box>
      <Typography sx={{ mt: 4, color: ink("faint"), fontSize: 13, maxWidth: 760 }}>
        Typical figures are ours, in US dollars, and count where the site’s currency is that. What is paid for
        your own hours is not in it: see Ledger.
      </Typography>
      <PriceBook document={document} needed={needed} faults={faults} edit={edit} onDone={onDone} />
    </Box>
  );
}
