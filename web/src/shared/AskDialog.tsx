import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useId, type ReactNode } from "react";

interface Props {
  title: string;
  /** what the button says that takes what was asked for */
  act: string;
  ready: boolean;
  onTake: () => void;
  onLeave: () => void;
  children: ReactNode;
}

/** A small question that what was just done leaves open: Enter confirms it, Escape cancels it. */
export function AskDialog({ title, act, ready, onTake, onLeave, children }: Props) {
  const id = useId();
  return (
    // a click beside it is the last one of a drawing, or a second tap: it throws nothing away
    <Dialog open onClose={(_, reason) => reason === "escapeKeyDown" && onLeave()} aria-labelledby={id}>
      <Box
        component="form"
        sx={{ p: 5, width: 340, maxWidth: "100%", display: "grid", gap: 3 }}
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) onTake();
        }}
      >
        <Typography id={id} variant="h1">
          {title}
        </Typography>
        {children}
        <Box sx={{ display: "flex", gap: 3 }}>
          <Button type="submit" variant="contained" disabled={!ready}>
            {act}
          </Button>
          <Button onClick={onLeave}>Cancel</Button>
        </Box>
      </Box>
    </Dialog>
  );
}
