import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useEffect, useId, useState } from "react";

import { ink } from "../../app/theme";
import { isTyping } from "./useLinesKeys";

const KEYS: { group: string; keys: [string, string][] }[] = [
  {
    group: "Anywhere",
    keys: [
      ["?", "this sheet"],
      ["Ctrl+Z", "undo"],
      ["Ctrl+Shift+Z, Ctrl+Y", "redo"],
      ["Tab, Shift+Tab", "to the next field, and back"],
      ["↑ ↓ in a number", "a step more or less"],
    ],
  },
  {
    group: "On the plan (view Lines)",
    keys: [
      ["L", "lay a line"],
      ["P", "set a trough, tap, tank, spring box or pond down; on a line it is joined by a tee"],
      ["F", "fence a paddock in"],
      ["M", "measure"],
      ["Arrows", "with a tool: move the crosshair a metre; else nudge what is chosen"],
      ["Shift+arrows", "ten metres"],
      ["Enter, Space", "with a tool: set a point; again at the same spot: done"],
      ["Backspace", "take the last point back"],
      ["Enter", "type the exact place of what is chosen"],
      ["Delete", "take what is chosen off the plan"],
      ["Ctrl+D", "copy what is chosen"],
      ["Ctrl+A", "choose everything"],
      ["Shift+click, Shift+drag", "choose several"],
      ["Escape", "put the tool down; choose nothing"],
    ],
  },
  {
    group: "In the long section",
    keys: [
      ["← →", "move along the line; with Shift faster"],
      ["+ −", "nearer, farther"],
      ["0", "the whole section"],
    ],
  },
  { group: "In the tables", keys: [["Enter", "the same figure of the next part"]] },
];

/** What the keys do, called up by "?". */
export function KeysSheet() {
  const title = useId();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (event.key !== "?" || isTyping(event)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, []);
  return (
    <>
      <Button
        onClick={() => setOpen(true)}
        aria-label="Keys"
        title="What the keys do (?)"
        sx={{ minWidth: 0 }}
      >
        ?
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} aria-labelledby={title} maxWidth="md">
        <Box sx={{ p: 5 }}>
          <Typography id={title} variant="h1">
            What the keys do
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
          <Button variant="outlined" sx={{ mt: 4 }} onClick={() => setOpen(false)}>
            Close
          </Button>
        </Box>
      </Dialog>
    </>
  );
}
