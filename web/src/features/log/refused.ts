/** A strength that cannot be, in words. */
import type { Fault } from "../../api/types";

const PERCENT = 100;
const SOME = 0.001;

/** Why a strength is none, with what is allowed in percent as it is typed. */
export function refusedText(fault: Fault | undefined): string | undefined {
  const [least = NaN, most = NaN] = (fault?.limit ?? "").split(" to ").map(Number);
  if (!fault || Number.isNaN(least + most)) return fault?.message;
  const percents = `${(PERCENT * least).toFixed(0)} % to ${(PERCENT * most).toFixed(0)} %`;
  if (fault.path === "/now") return `Strength now: ${percents} is allowed.`;
  return least > SOME
    ? `Plain water up to the brim makes it ${(PERCENT * least).toFixed(0)} %, no weaker: ${percents} is allowed.`
    : `Wanted: ${percents} is allowed.`;
}
