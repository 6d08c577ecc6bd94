import Button from "@mui/material/Button";
import { memo } from "react";

import { ink } from "../app/theme";
import { useSteady } from "./useSteady";

export type Zoom = "in" | "out" | "fit";

interface Props {
  /** what each is called */
  names: Readonly<Record<Zoom, string>>;
  /** width and height of each [px] */
  side: number;
  onZoom: (zoom: Zoom) => void;
}

const SIGNS = { in: "+", out: "−", fit: "⤢" } as const;
const ZOOMS = ["in", "out", "fit"] as const;

/** Three small buttons: zoom in, zoom out, fit. */
export function ZoomButtons({ names, side, onZoom }: Props) {
  return <Buttons names={names} side={side} onZoom={useSteady(onZoom)} />;
}

const Buttons = memo(function Buttons({ names, side, onZoom }: Props) {
  return ZOOMS.map((zoom) => (
    <Button
      key={zoom}
      variant="outlined"
      aria-label={names[zoom]}
      onClick={() => onZoom(zoom)}
      sx={{
        minWidth: { xs: 44, md: side },
        minHeight: { xs: 44, md: side },
        width: { xs: 44, md: side },
        height: { xs: 44, md: side },
        p: 0,
        bgcolor: ink("paper"),
      }}
    >
      {SIGNS[zoom]}
    </Button>
  ));
});
