/** Fields beside each other, as many as there is room for. */
export const FIELDS = {
  display: "grid",
  gridTemplateColumns: "repeat(auto-fill, minmax(140px, 1fr))",
  columnGap: 4,
  rowGap: 2,
  alignItems: "start",
  my: 2,
} as const;
