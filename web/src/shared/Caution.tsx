import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

import { ink } from "../app/theme";

/** The usual caution beside a figure that can hurt someone. */
export function Caution({ children }: { children: ReactNode }) {
  return (
    <Typography
      component="p"
      variant="caption"
      sx={{ borderLeft: `3px solid ${ink("little")}`, pl: 2, my: 2, color: ink("faint"), lineHeight: 1.35 }}
    >
      <strong>Take care.</strong> {children}
    </Typography>
  );
}
