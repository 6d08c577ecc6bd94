import { expect, test } from "vitest";

import type { Ledger } from "../../api/types";
import { paybackText } from "./payback";

const sums = (figures: Partial<Ledger["before"]>) => ({
  days: 0,
  trips: 0,
  litres: 0,
  hours: 0,
  money: 0,
  per_day: null,
  ...figures,
});
const told = (figures: Partial<Ledger>): Ledger => ({
  before: sums({ days: 30, trips: 9, per_day: 6 }),
  after: sums({ days: 30, per_day: 1 }),
  begun: "2031-05-01",
  months: [],
  saved_per_day: 5,
  payback_d: 100.2,
  price: 501,
  planned_price: null,
  currency: "USD",
  ...figures,
});

test.each<[string, Partial<Ledger>]>([
  ["It saves 5.00 USD a day: 501 USD are back 101 days after it began to run.", {}],
  ["It saves 5.00 USD a day: 501 USD are back 3.0 years after it began to run.", { payback_d: 1095 }],
  [
    "It saves 5.00 USD a day; say what it cost, and the ledger says when it is paid.",
    { price: null, payback_d: null },
  ],
  ["So far the line saves no money by what is noted.", { saved_per_day: -1, payback_d: null }],
  ["No trip was noted before the line ran: there is nothing to compare with.", { before: sums({}) }],
  [
    "Before the line: what it costs to go without. Once it runs, the ledger shows what it saves.",
    { begun: null, after: sums({}) },
  ],
])("%s", (text, figures) => {
  expect(paybackText(told(figures))).toBe(text);
});
