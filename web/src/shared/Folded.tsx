import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import { ink } from "../app/theme";

interface Props {
  title: string;
  /** whether it is open to begin with */
  open?: boolean;
  children: ReactNode;
}

/** What is changed less often, folded away under its title. */
export function Folded({ title, open = false, children }: Props) {
  return (
    <Box
      component="details"
      open={open || undefined}
      sx={{
        borderTop: `1px solid ${ink("rule")}`,
        mt: 2,
        "& > summary": {
          cursor: "pointer",
          fontWeight: 700,
          fontSize: 13,
          py: 1,
          minHeight: { xs: 44, md: 28 },
        },
      }}
    >
      <summary>{title}</summary>
      <Box sx={{ pb: 2 }}>{children}</Box>
    </Box>
  );
}
