/** When a line has paid for itself, in one sentence. */
import type { Ledger } from "../../api/types";
import { priceText } from "../../shared/price";

const YEAR_D = 365;

export function paybackText({
  before,
  after,
  begun,
  saved_per_day: saved,
  payback_d: days,
  currency,
  price,
}: Ledger): string {
  if (before.trips === 0 && after.days === 0)
    return "Note each trip with water: the ledger shows what a line would save.";
  if (!begun)
    return "Before the line: what it costs to go without. Once it runs, the ledger shows what it saves.";
  if (before.days === 0) return "No trip was noted before the line ran: there is nothing to compare with.";
  if (saved == null || saved <= 0) return "So far the line saves no money by what is noted.";
  const a = `It saves ${priceText(saved, currency)} a day`;
  if (days == null || price == null) return `${a}; say what it cost, and the ledger says when it is paid.`;
  const long = days > 2 * YEAR_D ? `${(days / YEAR_D).toFixed(1)} years` : `${Math.ceil(days)} days`;
  return `${a}: ${priceText(price, currency)} are back ${long} after it began to run.`;
}
