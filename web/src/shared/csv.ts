/** Text that no spreadsheet takes for a formula: with an apostrophe before what would begin one. */
const textCell = (text: string): string =>
  /^[=+\-@\t\r]/.test(text) && Number.isNaN(Number(text)) ? `'${text}` : text;

/** A cell of comma-separated values, quoted where it must be. */
export function csvCell(value: string | number): string {
  const text = typeof value === "number" ? String(Number(value.toFixed(3))) : textCell(value);
  return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Rows as comma-separated values. */
export const csvText = (rows: (string | number)[][]): string =>
  rows.map((row) => row.map(csvCell).join(",")).join("\n") + "\n";
