import { ink } from "../../app/theme";
import type { Difference } from "./difference";

const MOST_ROWS = 30;

/** Two versions side by side, only where they differ. */
export function DifferenceTable({
  rows,
  before,
  after,
}: {
  rows: Difference[];
  before: string;
  after: string;
}) {
  if (!rows.length) return <p>No differences.</p>;
  return (
    <table style={{ borderCollapse: "collapse", fontSize: 13 }}>
      <thead>
        <tr>
          {["Figure", before, after].map((title) => (
            <th key={title} scope="col" style={{ textAlign: "left", padding: "2px 14px 2px 0" }}>
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.slice(0, MOST_ROWS).map((row) => (
          <tr key={row.where} style={{ borderTop: `1px solid ${ink("rule")}` }}>
            <th scope="row" style={{ textAlign: "left", fontWeight: 400, padding: "2px 14px 2px 0" }}>
              {row.where}
            </th>
            <td style={{ paddingRight: 14 }}>{row.before}</td>
            <td>{row.after}</td>
          </tr>
        ))}
        {rows.length > MOST_ROWS && (
          <tr>
            <td colSpan={3}>and {rows.length - MOST_ROWS} more</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
