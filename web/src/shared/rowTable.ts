import { ink } from "../app/theme";

/** How tables of many rows look: text to the left, figures to the right, no lines but between rows. */
export const TABLE = {
  borderCollapse: "collapse",
  fontSize: 13,
  width: "100%",
  "& th, & td": { textAlign: "left", fontWeight: 400, py: 1, pr: { xs: 2, md: 4 }, verticalAlign: "top" },
  "& .figure": { textAlign: "right", whiteSpace: { xs: "normal", md: "nowrap" } },
  "& thead th": { color: ink("faint"), lineHeight: 1.25 },
  "& tbody tr": { borderTop: `1px solid ${ink("rule")}` },
  "& tbody tr.shop": { borderTop: 0 },
  "& tbody tr.shop th": { fontWeight: 700, pt: 4 },
  "& .part": { minWidth: { xs: 130, md: 190 } },
  "& .wide": { display: { xs: "none", md: "table-cell" } },
  "& .aside": { color: ink("faint"), fontSize: 12, lineHeight: 1.3, display: "block" },
} as const;
