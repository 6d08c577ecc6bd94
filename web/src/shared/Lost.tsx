import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { ink } from "../app/theme";

/** Told in place of what could not be fetched. */
export function Lost({ onAgain }: { onAgain: () => void }) {
  return (
    <Box role="alert" sx={{ p: 4, display: "flex", alignItems: "center", gap: 3, bgcolor: ink("paper") }}>
      This part of the page could not be loaded: the server does not answer. None of your changes is lost.
      <Button variant="outlined" onClick={onAgain} sx={{ flexShrink: 0 }}>
        Try again
      </Button>
    </Box>
  );
}
