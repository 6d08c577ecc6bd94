import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { Fragment } from "react";

import { partsWorkbook } from "../../api/client";
import type { PartsNeeded } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { download, downloadBlob } from "../../shared/download";
import { faultAt, whatIsWrong } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { QuantityField } from "../../shared/QuantityField";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { byShop, countText, fewText, listCsv, metresText, ownedInShed, shortCount } from "./list";
import type { PartsProps } from "./Parts";
import { Places } from "../../shared/Places";
import { TABLE } from "../../shared/rowTable";

interface Props extends PartsProps {
  needed: PartsNeeded;
  onPage: (page: "joints") => void;
}

/** Everything that the plan is built of, by kind of shop: how many, what of it is in the shed, what it costs. */
export function ShoppingList({ document, needed, faults, edit, onDone, onShow, onPage }: Props) {
  const system = usePreferences((state) => state.system);
  const shed = document.shed ?? [];
  const workbook = useMutation({
    mutationFn: () => partsWorkbook(document, system),
    onSuccess: ({ blob, name }) => downloadBlob(blob, name),
  });
  return (
    <Box component="section" aria-label="Shopping list" sx={{ p: 4 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 6, rowGap: 2, alignItems: "baseline", mb: 2 }}>
        <Typography variant="h1">
          To buy: <span data-testid="parts-price">{priceText(needed.price, needed.currency)}</span>
        </Typography>
        <Button
          onClick={() =>
            download(listCsv(document, needed, system), "text/csv", `${document.name} parts`, "csv")
          }
        >
          Download CSV
        </Button>
        <Button disabled={workbook.isPending} onClick={() => workbook.mutate()}>
          Download XLSX
        </Button>
        {workbook.error && (
          <Typography role="alert" color="error">
            {whatIsWrong(workbook.error)}
          </Typography>
        )}
      </Box>
      <Typography sx={{ maxWidth: 760, mb: 1 }}>
        Prices are typical, in US dollars, and count where they are in the site’s currency; those of your shop
        go into the price book under Costs. Fittings come from the joints, clamps, washers and tape from their
        seals.
        {needed.unpriced > 0 &&
          ` ${needed.unpriced} ${needed.unpriced === 1 ? "row has" : "rows have"} no price and ${needed.unpriced === 1 ? "is" : "are"} not in the sum.`}
        {needed.weight_kg > 0 &&
          ` Pipe and vessels weigh ${quantityText({ value: needed.weight_kg, unit: "kg" }, system)}${needed.unweighed ? `, without ${needed.unweighed} of unknown weight` : ""}: look what the trailer may carry.`}
      </Typography>
      {needed.unsolved > 0 && (
        <Typography sx={{ maxWidth: 760, mb: 1 }} role="status">
          {needed.unsolved} {needed.unsolved === 1 ? "joint is" : "joints are"} not solved, so fittings are
          missing here: <Button onClick={() => onPage("joints")}>see which</Button>
        </Typography>
      )}
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Rows of the shopping list">
        <Box component="table" sx={TABLE}>
          <thead>
            <tr>
              <th scope="col">Part</th>
              <th scope="col" className="wide">
                Where
              </th>
              <th scope="col" className="figure">
                Needed
              </th>
              <th scope="col" style={{ minWidth: 84 }}>
                In the shed
              </th>
              <th scope="col" className="figure">
                To buy
              </th>
              <th scope="col" className="figure wide">
                Each
              </th>
              <th scope="col" className="figure">
                Total
              </th>
            </tr>
          </thead>
          <tbody>
            {byShop(needed.rows).map(({ shop, rows }) => (
              <Fragment key={shop}>
                <tr className="shop">
                  <th scope="rowgroup" colSpan={7}>
                    {shop.charAt(0).toUpperCase() + shop.slice(1)}
                  </th>
                </tr>
                {rows.map((row) => {
                  const index = shed.findIndex((item) => item.product === row.product_id);
                  const rest = row.to_buy;
                  return (
                    <tr
                      key={row.product_id}
                      data-testid={`needed-${row.product_id}`}
                      style={rest === 0 ? { color: ink("faint") } : undefined}
                    >
                      <th scope="row" className="part">
                        {row.name}
                        <Box component="span" sx={{ display: { xs: "block", md: "none" } }}>
                          <Places document={document} ids={row.where} onShow={onShow} />
                        </Box>
                        {row.details.map((line, number) => (
                          <span key={number} className="aside">
                            {saidText(line, system)}
                          </span>
                        ))}
                        {row.assumed.length > 0 && (
                          <span className="aside">assumed: {fewText(row.assumed)}</span>
                        )}
                      </th>
                      <td className="wide" style={{ minWidth: 180 }}>
                        <Places document={document} ids={row.where} onShow={onShow} />
                      </td>
                      <td className="figure">{countText(row.count, row, system)}</td>
                      <td>
                        <QuantityField
                          label=""
                          name={`${row.name} in the shed`}
                          family={row.unit === "m" ? "m" : "count"}
                          value={index < 0 ? null : (shed[index]?.count ?? null)}
                          fault={faultAt(faults, `/shed/${index}/count`)}
                          onDone={onDone}
                          onChange={(count) =>
                            edit(`shed.${row.product_id}`, (draft) =>
                              ownedInShed(draft, row.product_id, count),
                            )
                          }
                          onClear={() =>
                            edit(`shed.${row.product_id}`, (draft) => ownedInShed(draft, row.product_id, 0))
                          }
                        />
                      </td>
                      <td className="figure">
                        {rest === 0 ? "nothing" : <strong>{shortCount(rest, row, system)}</strong>}
                      </td>
                      <td className="figure wide">
                        {row.price === null
                          ? "not known"
                          : `${priceText(row.price, needed.currency)}${row.unit === "m" ? " a metre" : ""}`}
                        {row.paid && <span className="aside">{row.paid}</span>}
                      </td>
                      <td className="figure">
                        {row.total === null ? "" : priceText(row.total, needed.currency)}
                      </td>
                    </tr>
                  );
                })}
              </Fragment>
            ))}
          </tbody>
        </Box>
      </Box>
      <RollsTold needed={needed} />
    </Box>
  );
}

/** How each pipe is cut from its rolls. */
function RollsTold({ needed }: { needed: PartsNeeded }) {
  const system = usePreferences((state) => state.system);
  const metres = (value: number) => metresText(value, system);
  const kilos = (value: number) => quantityText({ value, unit: "kg" }, system);
  if (!needed.rolls.length) return null;
  const all = needed.rolls.reduce((sum, rolls) => sum + (rolls.weight_kg ?? 0), 0);
  return (
    <Box sx={{ mt: 5, maxWidth: 760 }}>
      <Typography variant="h2">Rolls</Typography>
      <ul style={{ margin: "4px 0", paddingLeft: 20 }}>
        {needed.rolls.map((rolls) => (
          <li key={rolls.product_id}>
            {rolls.name}: {metres(rolls.needed_m)}
            {rolls.roll_m === null
              ? ", by the metre"
              : `, ${rolls.count} × ${metres(rolls.roll_m)}, ${rolls.joins} ${rolls.joins === 1 ? "join" : "joins"}, ${metres(rolls.offcut_m)} left over`}
            {rolls.weight_kg !== null && `; weighs ${kilos(rolls.weight_kg)}`}
          </li>
        ))}
      </ul>
      <Typography>
        Pipe on the trailer: {kilos(all)}, at the least wall and typical densities; fittings, troughs and
        tanks are not in it.
      </Typography>
      <Caution>
        A roll is heavy and awkward: two people lift it. It springs open when its ties are cut: one tie at a
        time, from the inside of the roll.
      </Caution>
    </Box>
  );
}
