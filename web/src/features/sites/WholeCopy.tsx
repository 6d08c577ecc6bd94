import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import { archiveAddress, readArchive } from "../../api/client";
import { FileInput } from "../../shared/FileInput";
import { Refusal } from "./Refusal";

type Outcome = Awaited<ReturnType<typeof readArchive>>;

/** All plans as one file, and back from one. */
export function WholeCopy() {
  const picker = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const read = useMutation({
    mutationFn: readArchive,
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["designs"] });
      void queries.invalidateQueries({ queryKey: ["catalogue"] });
    },
  });
  return (
    <Box component="section" aria-label="A copy of everything" sx={{ mt: 5 }}>
      <Typography variant="h2">A copy of everything</Typography>
      <Typography color="text.secondary" sx={{ maxWidth: 560 }}>
        One ZIP file with every plan, all its revisions, its height model and picture, and your own products.
        Reading one back adds what is missing and writes over nothing.
      </Typography>
      <Box sx={{ display: "flex", gap: 3, mt: 2, flexWrap: "wrap" }}>
        <Button component="a" variant="outlined" href={archiveAddress} download>
          Export all plans
        </Button>
        <Button variant="outlined" disabled={read.isPending} onClick={() => picker.current?.click()}>
          {read.isPending ? "Importing …" : "Import an archive"}
        </Button>
      </Box>
      <FileInput ref={picker} label="Archive file" accept=".zip,application/zip" onFile={read.mutate} />
      {read.isSuccess && (
        <Typography role="status" sx={{ mt: 2 }}>
          {toldOf(read.data)}
        </Typography>
      )}
      {read.isError && <Refusal error={read.error} done="imported" />}
    </Box>
  );
}

const counted = (count: number, of: string) => `${count} ${of}${count === 1 ? "" : "s"}`;

/** What became of an archive, in a sentence for each thing that happened. */
function toldOf({ added, there, beside, products_added, products_left }: Outcome): string {
  const said = [
    added && `${counted(added, "plan")} added.`,
    there && `${counted(there, "plan")} already here.`,
    beside && `${counted(beside, "plan")} added beside the one here that differs.`,
    products_added && `${counted(products_added, "product")} of your own added.`,
    products_left.length && `Left as they are here: ${products_left.join(", ")}.`,
  ].filter(Boolean);
  return said.length ? said.join(" ") : "The archive is empty.";
}
