import Box from "@mui/material/Box";
import type { ReactNode } from "react";

/** The view with no refill. */
export function Main({ children }: { children: ReactNode }) {
  return (
    <Box
      component="main"
      sx={{
        gridArea: "main",
        minHeight: 0,
        minWidth: 0,
        overflowY: "auto",
        "@media print": { overflow: "visible" },
      }}
    >
      {children}
    </Box>
  );
}
