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
    text: "Pipe",
    how: "Click the start, every corner, and double-click the end. Keys: arrows and Enter; Backspace removes a corner, Escape cancels.",
  },
  {
    tool: "thing",
    key: "P",
    text: "Add",
    how: "Click the place; on a pipe it is joined by a tee. Keys: arrows, then Enter.",
  },
  {
    tool: "paddock",
    key: "F",
    text: "Paddock",
    how: "Click every corner of the paddock and double-click the last. Keys: arrows and Enter.",
  },
  {
    tool: "measure",
    key: "M",
    text: "Measure",
    how: "Click along what you measure and double-click the last point. Keys: arrows and Enter.",
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

/** Which outlets run, and what the hand holds. */
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
        Background
      </Button>
    </Box>
  );
});
