import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import { TABLE } from "./rowTable";

const REGION = { overflowX: "auto", mt: 2 } as const;

interface RowsProps {
  /** for those who hear the page */
  label: string;
  heads: readonly { text: string; kind?: "figure" | "wide" }[];
  children: ReactNode;
}

/** A table of rows that scrolls sideways where it has no room. */
export function Rows({ label, heads, children }: RowsProps) {
  return (
    <Box sx={REGION} tabIndex={0} role="region" aria-label={label}>
      <Box component="table" sx={TABLE}>
        <thead>
          <tr>
            {heads.map(({ text, kind }) => (
              <th key={text} scope="col" className={kind}>
                {text}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </Box>
    </Box>
  );
}
