import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";

import { savePicture } from "../../shared/picture";

const DRAWINGS = [
  { what: "Plan", find: "[data-testid=plan-drawing]", paper: "var(--lm-palette-chart-land)" },
  { what: "Section", find: "[data-testid=section-drawing]", paper: "var(--lm-palette-chart-paper)" },
];

/** Plan and section as files, and the whole as a printed sheet. */
export function Pictures({ name }: { name: string }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => setAnchor(null);
  const offered = DRAWINGS.flatMap((drawing) => {
    const found = anchor && document.querySelector<SVGSVGElement>(drawing.find);
    return found ? [{ ...drawing, found }] : [];
  });
  return (
    <>
      <Button onClick={(event) => setAnchor(event.currentTarget)} aria-haspopup="menu" sx={{ minWidth: 0 }}>
        Pictures
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        {offered.flatMap(({ what, found, paper }) =>
          (["svg", "png"] as const).map((kind) => (
            <MenuItem
              key={what + kind}
              onClick={() => {
                close();
                void savePicture(found, kind, `${name} ${what}`, paper);
              }}
            >
              {what} as {kind.toUpperCase()}
            </MenuItem>
          )),
        )}
        <MenuItem
          onClick={() => {
            close();
            setTimeout(() => window.print(), 200); // once the menu has gone
          }}
        >
          Print a sheet
        </MenuItem>
      </Menu>
    </>
  );
}
