import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import { ink } from "../../app/theme";
import { HEARD } from "../../shared/heard";
import { useDebounced } from "../../shared/useDebounced";
import type { Tool } from "../plan";
import { useSketch } from "./sketch";
import { TOOLS } from "./ToolBar";

interface Props {
  tool: Tool | null;
  /** what the last drawing came to */
  told: string;
  tellMetres: (m: number) => string;
}

const QUIET_MS = 400;

/** How a tool works, and how long what is drawn is so far: seen at once, heard once the hand rests. */
export function DrawingTold({ tool, told, tellMetres }: Props) {
  const lengthM = useSketch((sketch) => sketch.lengthM);
  const length = lengthM === null ? "" : `${tellMetres(lengthM)} so far`;
  const heard = useDebounced(told || length, QUIET_MS);
  if (!tool && !told) return null;
  const how = TOOLS.find((one) => one.tool === tool)?.how;
  return (
    <>
      <Typography
        aria-hidden
        data-testid="drawing-told"
        sx={{
          position: "absolute",
          left: 8,
          bottom: 56,
          pointerEvents: "none",
          bgcolor: ink("paper"),
          border: `1px solid ${ink("rule")}`,
          px: 2,
          py: 1,
          maxWidth: 420,
        }}
      >
        {length && <strong>{length}. </strong>}
        {told || how}
      </Typography>
      <Box role="status" sx={HEARD}>
        {heard || how}
      </Box>
    </>
  );
}
