import Button from "@mui/material/Button";

import { ink } from "../app/theme";

const QUIET = { p: 0, justifySelf: "start", color: ink("faint") } as const;

interface Props {
  onClick: () => void;
  text?: string;
}

/** A quiet button that takes a part out of the plan; undo brings it back. */
export function TakeAway({ onClick, text = "Take away" }: Props) {
  return (
    <Button sx={QUIET} onClick={onClick}>
      {text}
    </Button>
  );
}

/** The same for one row of many: a cross, with words for those who hear the page. */
export function Cross({ onClick, label }: { onClick: () => void; label: string }) {
  return (
    <Button aria-label={label} sx={{ ...QUIET, minWidth: 24 }} onClick={onClick}>
      ×
    </Button>
  );
}
