import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";

import { jobSheet } from "../../api/client";
import type { Design } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { downloadBlob } from "../../shared/download";
import { whatIsWrong } from "../../shared/faults";
import { usePreferences, type Paper } from "../../shared/preferences";
import type { BuildProps } from "./Build";

const PAPERS = [
  { value: "a4", text: "A4" },
  { value: "us-letter", text: "US Letter" },
];

/** The day it is here, as 2026-05-31. */
function today(): string {
  const now = new Date();
  const two = (value: number) => String(value).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}

/** Everything that is taken outside as one PDF, on the paper of whoever prints it. */
export function JobSheet({ document, revision }: { document: Design } & Pick<BuildProps, "revision">) {
  const { system, paper, setPaper } = usePreferences();
  const chosen = paper ?? (system === "us" ? "us-letter" : "a4");
  const sheet = useMutation({
    mutationFn: () =>
      jobSheet({
        document,
        units: system,
        paper: chosen,
        revision: revision.number > 0 ? revision.number : null,
        is_saved: revision.isSaved,
        date: today(),
        link: window.location.href.replace(/\/[^/]*$/, "/lines").slice(0, 300),
      }),
    onSuccess: ({ blob, name }) => downloadBlob(blob, name),
  });
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, alignItems: "flex-end" }}>
      <Button variant="outlined" disabled={sheet.isPending} onClick={() => sheet.mutate()}>
        {sheet.isPending ? "Setting the job sheet …" : "Job sheet as PDF"}
      </Button>
      <Box sx={{ width: 110 }}>
        <Choice
          label="Paper"
          value={chosen}
          options={PAPERS}
          onChange={(value) => setPaper(value as Paper)}
        />
      </Box>
      {sheet.error && (
        <Typography role="alert" color="error">
          {whatIsWrong(sheet.error)}
        </Typography>
      )}
    </Box>
  );
}
