import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { compareYears, listDesigns, readDesign } from "../../api/client";
import type { Design, Yearly } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText } from "../../shared/units";

/** A year of metered water and of hauling, against another plan. */
export function Compare({ document }: { document: Design }) {
  const system = usePreferences((state) => state.system);
  const [other, setOther] = useState("");
  const plans = useQuery({
    queryKey: ["designs", "to compare"],
    queryFn: async () => (await listDesigns(null, { length: 200 })).designs,
  });
  const told = useQuery({
    queryKey: ["years", other, document],
    queryFn: async ({ signal }) => compareYears(document, (await readDesign(other)).document, signal),
    enabled: other !== "",
    staleTime: Infinity,
    retry: false,
  });
  const saved = (key: "metered_l" | "haul_h", years: { own: Yearly; other: Yearly }) =>
    years.other[key] - years.own[key];
  const more = (value: number) => (value >= 0 ? "less" : "more");
  const litres = (value: number) => quantityText({ value: Math.abs(value), unit: "L" }, system);
  const hours = (value: number) => `${figure(Math.abs(value), 0)} hours`;
  return (
    <>
      <Box sx={{ width: 260, my: 2 }}>
        <Choice
          label="Compare a year with"
          value={other}
          options={[
            { value: "", text: "choose a plan …" },
            ...(plans.data ?? []).map((plan) => ({
              value: plan.id,
              text: `${plan.site_name} · ${plan.name}`,
            })),
          ]}
          onChange={setOther}
        />
      </Box>
      {told.isError && <Typography color="text.secondary">{told.error.message}</Typography>}
      {told.data && (
        <Typography component="p" data-testid="years-told">
          A year of this plan takes {litres(told.data.own.metered_l)} of metered water,{" "}
          {litres(saved("metered_l", told.data))} {more(saved("metered_l", told.data))} than the other, and{" "}
          {hours(told.data.own.haul_h)} of hauling, {hours(saved("haul_h", told.data))}{" "}
          {more(saved("haul_h", told.data))}.
        </Typography>
      )}
    </>
  );
}
