import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import { ink } from "../../app/theme";
import type { Sizing } from "./useSizing";

/** The button that starts long work; while it runs how far it is, and the way to stop it; or why it has no answer. */
export function Running({ of, text, doing }: { of: Sizing<unknown>; text: string; doing: string }) {
  if (of.progress !== null)
    return (
      <Box role="status" sx={{ display: "flex", alignItems: "center", gap: 3, my: 2, flexWrap: "wrap" }}>
        <span>
          {doing} {Math.round(100 * of.progress)} %
        </span>
        <progress
          value={of.progress}
          max={1}
          aria-label={doing}
          style={{ width: 140, accentColor: ink("deep") }}
        />
        <Button variant="outlined" onClick={of.stop}>
          Stop
        </Button>
      </Box>
    );
  return (
    <>
      {of.error && of.error.name !== "AbortError" && (
        <Typography role="alert" sx={{ my: 2, maxWidth: 760 }}>
          {of.error.message}
        </Typography>
      )}
      <Button variant={of.told ? "outlined" : "contained"} onClick={of.start} sx={{ my: 1 }}>
        {text}
      </Button>
    </>
  );
}
