import Box from "@mui/material/Box";

import { ink } from "../app/theme";

interface Props {
  /** what the picture shows */
  title: string;
  head: string[];
  rows: (string | number)[][];
}

/** A chart's numbers as a table of real elements, folded away until somebody asks for it. */
export function PictureTable({ title, head, rows }: Props) {
  return (
    <Box
      component="details"
      sx={{ fontSize: 13, mt: 1, "& summary": { cursor: "pointer", color: ink("faint") } }}
    >
      <summary>{title} as a table</summary>
      <Box sx={{ maxHeight: 260, overflow: "auto" }}>
        <Box
          component="table"
          sx={{
            borderCollapse: "collapse",
            "& th, & td": { textAlign: "right", fontWeight: 400, py: 0.25, pl: 5, whiteSpace: "nowrap" },
            "& thead th": { color: ink("faint"), position: "sticky", top: 0, bgcolor: ink("paper") },
            "& th:first-of-type": { textAlign: "left", pl: 0 },
          }}
        >
          <thead>
            <tr>
              {head.map((one) => (
                <th key={one} scope="col">
                  {one}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([first, ...others], index) => (
              <tr key={index}>
                <th scope="row">{first}</th>
                {others.map((one, column) => (
                  <td key={column}>{one}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
