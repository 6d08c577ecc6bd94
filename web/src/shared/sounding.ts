import type { Sounding } from "../api/types";

/** Whether the line would suck air somewhere at the flow of the sounding. */
export const sucksAir = (sounding: Sounding): boolean => (sounding.least_over_pipe_m ?? 0) < 0;

/** What is left below nought by no more than rounding is no shortfall: [m]. */
const ROUNDING_M = 0.005;

/** Whether the water falls short: too little head for the flow that is wanted, or a hump over the grade. */
export const fallsShort = (sounding: Sounding): boolean =>
  (sounding.wanted && sounding.margin_m < -ROUNDING_M) || sucksAir(sounding);
