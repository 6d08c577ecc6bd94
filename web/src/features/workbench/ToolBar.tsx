import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { memo } from "react";

import { ink } from "../../app/theme";
import { DrawingSwitch } from "../../shared/DrawingSwitch";
import type { Together } from "../../shared/route";
import type { Tool } from "../plan";

export const TOOLS: { tool: Tool; key: string; text: string; how: string }[] = [
  {
    tool: "line",
    key: "L",
    text: "Line",
    how: "Click where it begins, every corner, and twice where it ends; with keys: arrows and Enter. Backspace takes a corner back, Escape leaves it.",
  },
  {
    tool: "thing",
    key: "P",
    text: "Set down",
    how: "Click where it stands; on a line it is joined by a tee. With keys: arrows, then Enter.",
  },
  {
    tool: "paddock",
    key: "F",
    text: "Fence",
    how: "Click every corner of the paddock, the last one twice. With keys: arrows and Enter.",
  },
  {
    tool: "measure",
    key: "M",
    text: "Measure",
    how: "Click along what is to be measured, the last point twice. With keys: arrows and Enter.",
  },
];

const KEY = { font: "inherit", fontWeight: 400, opacity: 0.75, marginLeft: 4 };

interface Props {
  tool: Tool | null;
  onTool: (tool: Tool | null) => void;
  together: Together;
  onTogether: (together: Together) => void;
  /** whether what lies under the plan is being chosen */
  layers: boolean;
  onLayers: (layers: boolean) => void;
}

/** Which outlets draw, and what the hand holds. */
export const ToolBar = memo(function ToolBar({
  tool,
  onTool,
  together,
  onTogether,
  layers,
  onLayers,
}: Props) {
  return (
    <Box
      role="toolbar"
      aria-label="Drawing"
      className="not-printed"
      sx={{
        position: "absolute",
        top: 8,
        left: 8,
        right: 44,
        display: "flex",
        gap: 1,
        flexWrap: "wrap",
        pointerEvents: "none",
        "& > *": { pointerEvents: "auto" },
      }}
    >
      <DrawingSwitch value={together} onChange={onTogether} />
      {TOOLS.map((one) => (
        <Button
          key={one.tool}
          variant={tool === one.tool ? "contained" : "outlined"}
          aria-pressed={tool === one.tool}
          aria-keyshortcuts={one.key}
          sx={{
            px: 1.2,
            minWidth: 0,
            fontSize: 12.5,
            ...(tool === one.tool ? {} : { bgcolor: ink("paper") }),
          }}
          onClick={() => onTool(tool === one.tool ? null : one.tool)}
        >
          {one.text} <kbd style={KEY}>{one.key}</kbd>
        </Button>
      ))}
      <Button
        variant={layers ? "contained" : "outlined"}
        aria-expanded={layers}
        sx={{ px: 1.2, minWidth: 0, fontSize: 12.5, ...(layers ? {} : { bgcolor: ink("paper") }) }}
        onClick={() => onLayers(!layers)}
      >
        Under it
      </Button>
    </Box>
  );
});
