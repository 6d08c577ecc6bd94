/** What is measured on the pieces that pass a wall, as changes of the plan. */
import type { Design } from "../../api/types";

/** Note what was measured on a piece; without its width across the thread nothing of it is kept. */
export function measuredStem(
  draft: Design,
  product: string,
  key: "across_mm" | "long_mm",
  value: number | null,
): void {
  const stems = draft.stems ?? [];
  const own = stems.find((one) => one.product === product);
  if (key === "across_mm" && value === null) draft.stems = stems.filter((one) => one !== own);
  else if (!own && key === "across_mm" && value !== null)
    draft.stems = [...stems, { product, across_mm: value }];
  else if (own && value === null) delete own.long_mm;
  else if (own && value !== null) own[key] = value;
}
