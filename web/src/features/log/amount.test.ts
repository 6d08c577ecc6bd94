import { expect, test } from "vitest";

import type { DoseAmount } from "../../api/types";
import { amountText } from "./amount";

const DOSE: DoseAmount = {
  value: 1478.7,
  unit: "mL",
  us_spoons: [
    [6, "cup"],
    [4, "tbsp"],
  ],
  metric_spoons: [
    [5, "metric cup"],
    [0.75, "metric tsp"],
  ],
};

test.each([
  [DOSE, "us", "1,479 mL, that is 6 cups and 4 tbsp"],
  [DOSE, "metric", "1,479 mL, that is 5 metric cups and 0.75 metric tsp"],
  [{ value: 2.34, unit: "g", us_spoons: [], metric_spoons: [] }, "metric", "2.3 g"],
] as const)("a dose is told in what people measure with", (dose, system, told) => {
  expect(amountText(dose as DoseAmount, system)).toBe(told);
});
