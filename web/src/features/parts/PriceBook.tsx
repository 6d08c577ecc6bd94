import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";

import { listDesigns, readDesign } from "../../api/client";
import type { Design, Fault, PartsNeeded } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { DayField } from "../../shared/DayField";
import { faultAt, whatIsWrong } from "../../shared/faults";
import { NameField } from "../../shared/NameField";
import { QuantityField } from "../../shared/QuantityField";
import { today } from "../../shared/today";

type Price = NonNullable<Design["prices"]>[number];

interface Props {
  document: Design;
  needed: PartsNeeded;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const MOST_LISTED = 200;

/** Prices that somebody asked for: what, where, when, new or used; what another plan of the site has can be had. */
export function PriceBook({ document, needed, faults, edit, onDone }: Props) {
  const { designId = "" } = useParams();
  const prices = document.prices ?? [];
  const rows = new Map(needed.rows.map((row) => [row.product_id, row]));
  const plans = useQuery({
    queryKey: ["designs", "with prices"],
    queryFn: async () => (await listDesigns(null, { length: MOST_LISTED })).designs,
    retry: false,
  });
  const others = (plans.data ?? []).filter(
    (plan) => plan.id !== designId && plan.site_name === document.site.name,
  );
  const takeOver = useMutation({
    mutationFn: async (id: string) => (await readDesign(id)).document.prices ?? [],
    onSuccess: (theirs) =>
      edit("prices of another plan", (draft) => void (draft.prices = merged(draft.prices ?? [], theirs))),
  });
  const put = (index: number, change: Partial<Price>) =>
    edit(`prices.${index}.${Object.keys(change)[0]}`, (draft) => {
      const own = draft.prices?.[index];
      if (own) Object.assign(own, change);
    });
  const drop = (index: number, key: "shop" | "date") =>
    edit(`prices.${index}.${key}`, (draft) => void delete draft.prices?.[index]?.[key]);
  const nameOf = (product: string) => rows.get(product)?.name ?? product;
  const unitOf = (product: string) => {
    const row = rows.get(product);
    return row && (row.unit !== "piece" || row.roll_m) ? "a metre" : "each";
  };
  return (
    <Box component="section" aria-label="Price book" sx={{ mt: 5 }}>
      <Typography variant="h2">Price book</Typography>
      <Typography sx={{ color: ink("faint"), maxWidth: 760, mb: 2, fontSize: 13 }}>
        What you were told or paid, in {needed.currency}: it counts before typical prices, here and in
        Options. Of one shop the latest counts, of several the cheapest; used things where you buy used.
      </Typography>
      {prices.map((price, index) => (
        <Box
          key={index}
          role="group"
          aria-label={`Price of ${nameOf(price.product)}`}
          data-testid={`price-${price.product}`}
          sx={{
            display: "grid",
            gap: 3,
            alignItems: "end",
            py: 1,
            borderTop: `1px solid ${ink("rule")}`,
            gridTemplateColumns: { xs: "1fr 1fr", md: "minmax(0, 1fr) 110px 200px 150px 80px auto" },
          }}
        >
          <Box sx={{ gridColumn: { xs: "1 / -1", md: "auto" } }}>
            {nameOf(price.product)}
            {!rows.has(price.product) && (
              <span style={{ display: "block", fontSize: 12 }}>not in this plan</span>
            )}
          </Box>
          <QuantityField
            label={unitOf(price.product)}
            name={`Price of ${nameOf(price.product)}`}
            family="count"
            digits={2}
            value={price.price}
            fault={faultAt(faults, `/prices/${index}/price`)}
            onChange={(value) => put(index, { price: value })}
            onDone={onDone}
          />
          <NameField
            label="Shop"
            value={price.shop ?? ""}
            placeholder="not noted"
            onChange={(shop) => (shop ? put(index, { shop: shop.slice(0, 80) }) : drop(index, "shop"))}
          />
          <DayField
            label="Asked on"
            value={price.date ?? ""}
            fault={faultAt(faults, `/prices/${index}/date`)}
            onChange={(date) => (date ? put(index, { date }) : drop(index, "date"))}
          />
          <FormControlLabel
            label="used"
            control={
              <Checkbox
                size="small"
                checked={!!price.used}
                onChange={(_, used) => put(index, { used })}
                slotProps={{ input: { "aria-label": `${nameOf(price.product)} is used` } }}
              />
            }
          />
          <Button
            size="small"
            onClick={() => edit("price dropped", (draft) => void draft.prices?.splice(index, 1))}
          >
            Remove
          </Button>
        </Box>
      ))}
      <Box sx={{ display: "flex", gap: 4, flexWrap: "wrap", mt: 2 }}>
        <Box sx={{ width: { xs: "100%", md: 380 } }}>
          <Choice
            label="Add a price of"
            value=""
            options={[
              { value: "", text: "choose …" },
              ...needed.rows.map((row) => ({ value: row.product_id, text: row.name, group: row.shop })),
            ]}
            onChange={(product) => {
              const row = rows.get(product);
              const each = (row?.price ?? 0) / (row?.roll_m ?? 1);
              edit("price", (draft) => {
                draft.prices = [
                  ...(draft.prices ?? []),
                  { product, price: +each.toFixed(2), date: today(), used: false },
                ];
              });
            }}
          />
        </Box>
        {others.length > 0 && (
          <Box sx={{ width: { xs: "100%", md: 300 } }}>
            <Choice
              label="Take over prices of another plan"
              value=""
              options={[
                { value: "", text: "choose …" },
                ...others.map((plan) => ({ value: plan.id, text: plan.name })),
              ]}
              onChange={(id) => takeOver.mutate(id)}
            />
          </Box>
        )}
      </Box>
      {takeOver.error && <Typography role="alert">{whatIsWrong(takeOver.error)}</Typography>}
    </Box>
  );
}

/** Own prices and another plan's: what both say of one thing, shop and day stays as it is here. */
function merged(own: Price[], theirs: Price[]): Price[] {
  const key = (price: Price) => [price.product, price.shop ?? "", price.date ?? "", !!price.used].join("|");
  const known = new Set(own.map(key));
  return [...own, ...theirs.filter((price) => !known.has(key(price)))];
}
