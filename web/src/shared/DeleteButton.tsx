import Button from "@mui/material/Button";

import { ink } from "../app/theme";

const QUIET = { justifySelf: "start", color: ink("faint"), minHeight: { xs: 44, md: 28 } } as const;

interface Props {
  onClick: () => void;
  text?: string;
}

/** A quiet button that deletes a part of the plan; undo restores it. */
export function DeleteButton({ onClick, text = "Delete" }: Props) {
  return (
    <Button sx={{ ...QUIET, px: 0, minWidth: 0 }} onClick={onClick}>
      {text}
    </Button>
  );
}

/** The same for one row of many: a cross, with words for those who hear the page. */
export function Cross({ onClick, label }: { onClick: () => void; label: string }) {
  return (
    <Button aria-label={label} sx={{ ...QUIET, p: 0, minWidth: { xs: 44, md: 28 } }} onClick={onClick}>
      ×
    </Button>
  );
}
