import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useId } from "react";

import { ink } from "../../app/theme";

const KEYS: { group: string; keys: [string, string][] }[] = [
  {
    group: "Anywhere",
    keys: [
      ["?", "these shortcuts"],
      ["Shift+D, S, G, L, Y, X, P, B, O", "Demand, Supply, Ground, Lines, Day, Options, Parts, Build, Log"],
      ["Ctrl+Z", "undo"],
      ["Ctrl+Shift+Z, Ctrl+Y", "redo"],
      ["Tab, Shift+Tab", "next field, previous field"],
      ["↑ ↓ in a number", "one step up or down"],
    ],
  },
  {
    group: "On the plan (view Lines)",
    keys: [
      ["L", "draw a pipe"],
      ["P", "add a trough, tap, tank, spring box or pond; on a pipe it is joined by a tee"],
      ["F", "draw a paddock"],
      ["M", "measure"],
      ["Arrows", "with a tool: move the crosshair a metre; else nudge what is chosen"],
      ["Shift+arrows", "ten metres"],
      ["Enter, Space", "with a tool: set a point; again at the same spot: done"],
      ["Backspace", "remove the last point"],
      ["Enter", "type the exact place of what is chosen"],
      ["Delete", "delete what is chosen"],
      ["Ctrl+D", "copy what is chosen"],
      ["Ctrl+A", "choose everything"],
      ["Shift+click, Shift+drag", "choose several"],
      ["Escape", "cancel the tool; choose nothing"],
    ],
  },
  {
    group: "In the profile",
    keys: [
      ["← →", "move along the line; with Shift faster"],
      ["+ −", "zoom in, zoom out"],
      ["0", "the whole profile"],
    ],
  },
  { group: "In the tables", keys: [["Enter", "the same column of the next part"]] },
];

/** The keyboard shortcuts. */
export function KeysSheet({ onClose }: { onClose: () => void }) {
  const title = useId();
  return (
    <Dialog open onClose={onClose} aria-labelledby={title} maxWidth="md">
      <Box sx={{ p: 5 }}>
        <Typography id={title} variant="h1">
          Keyboard shortcuts
        </Typography>
        {KEYS.map(({ group, keys }) => (
          <Box key={group} component="section" sx={{ mt: 3 }}>
            <Typography variant="h2">{group}</Typography>
            <Box component="dl" sx={{ m: 0, display: "grid", gridTemplateColumns: "200px 1fr", rowGap: 1 }}>
              {keys.map(([key, does]) => (
                <Box key={key} sx={{ display: "contents" }}>
                  <dt style={{ fontWeight: 700 }}>{key}</dt>
                  <dd style={{ margin: 0, borderBottom: `1px solid ${ink("rule")}` }}>{does}</dd>
                </Box>
              ))}
            </Box>
          </Box>
        ))}
        <Button variant="outlined" sx={{ mt: 4 }} onClick={onClose}>
          Close
        </Button>
      </Box>
    </Dialog>
  );
}
