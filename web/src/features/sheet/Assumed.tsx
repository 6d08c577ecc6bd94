import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { ink } from "../../app/theme";
import { keyInWords } from "../../shared/figure";
import type { Edit } from "./edit";

interface Part {
  id: string;
  assumed?: string[];
}

interface Props {
  part: Part;
  kind: "vessels" | "outlets" | "lines" | "pressure_sources";
  edit: Edit;
  onDone: () => void;
}

const WORDS: Record<string, string> = {
  shape: "its size",
  product: "the pipe",
  kv_m3h: "what the valve passes",
};

/** Figures that are ours to begin with: they stay marked until they are changed or said to be right. */
export function Assumed({ part, kind, edit, onDone }: Props) {
  const figures = part.assumed ?? [];
  if (!figures.length) return null;
  return (
    <Box
      data-testid="assumed"
      sx={{ gridColumn: "1 / -1", borderLeft: `3px solid ${ink("little")}`, pl: 2, mb: 1, fontSize: 13 }}
    >
      ◆ Assumed values, please check: {figures.map((key) => WORDS[key] ?? keyInWords(key)).join(", ")}. Type
      your own values, or{" "}
      <Button
        sx={{ p: 0, minWidth: 0, textDecoration: "underline" }}
        onClick={() => {
          edit(`${part.id}.confirmed`, (draft) => {
            const own = (draft[kind] as Part[] | undefined)?.find((one) => one.id === part.id);
            if (own) delete own.assumed;
          });
          onDone();
        }}
      >
        Confirm
      </Button>
      .
    </Box>
  );
}

/** A figure that was put in is no longer ours. */
export function noLongerAssumed(part: Part, key: string): void {
  const left = part.assumed?.filter((one) => one !== key);
  if (left?.length) part.assumed = left;
  else delete part.assumed;
}
