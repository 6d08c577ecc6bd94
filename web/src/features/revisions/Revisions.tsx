import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";

import { listRevisions, nameRevision, readRevision } from "../../api/client";
import type { Design, RevisionHeading } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { differences } from "./difference";
import { DifferenceTable } from "./DifferenceTable";

interface Props {
  designId: string;
  /** the revision that is open */
  number: number;
  document: Design;
  onRestore: (document: Design) => void;
  onLeave: () => void;
}

const SHOWN_AT_FIRST = 40;

/** History, when and by whom; each can be looked at beside what is open, named, and brought back. */
export function Revisions({ designId, number, document, onRestore, onLeave }: Props) {
  const title = useId();
  const { name, setName } = usePreferences();
  const [most, setMost] = useState(SHOWN_AT_FIRST);
  const [looked, setLooked] = useState<number | null>(null);
  const listed = useQuery({
    queryKey: ["revisions", designId, number],
    queryFn: () => listRevisions(designId),
    gcTime: 0,
  });
  return (
    <Dialog open onClose={onLeave} aria-labelledby={title} maxWidth="md" fullWidth>
      <Box sx={{ p: 5, display: "grid", gap: 3 }}>
        <Typography id={title} variant="h1">
          History
        </Typography>
        <TextField
          label="Your name, saved with your changes"
          value={name}
          size="small"
          variant="standard"
          onChange={(event) => setName(event.target.value.slice(0, 60))}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        {listed.isPending && <Typography>Loading …</Typography>}
        {listed.isError && (
          <Typography role="alert">
            {listed.error.message} <Button onClick={() => void listed.refetch()}>Try again</Button>
          </Typography>
        )}
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {listed.data?.slice(0, most).map((one) => (
            <Box component="li" key={one.number} sx={{ borderTop: `1px solid ${ink("rule")}`, py: 2 }}>
              <Heading
                heading={one}
                open={one.number === number}
                designId={designId}
                looked={looked === one.number}
                onLook={() => setLooked(looked === one.number ? null : one.number)}
              />
              {looked === one.number && (
                <Look designId={designId} number={one.number} document={document} onRestore={onRestore} />
              )}
            </Box>
          ))}
        </Box>
        {(listed.data?.length ?? 0) > most && (
          <Button onClick={() => setMost(most + SHOWN_AT_FIRST)}>Show older revisions</Button>
        )}
        <Button onClick={onLeave} variant="outlined" sx={{ justifySelf: "start" }}>
          Close
        </Button>
      </Box>
    </Dialog>
  );
}

interface HeadingProps {
  heading: RevisionHeading;
  open: boolean;
  designId: string;
  looked: boolean;
  onLook: () => void;
}

function Heading({ heading, open, designId, looked, onLook }: HeadingProps) {
  const queries = useQueryClient();
  const [label, setLabel] = useState(heading.label);
  const keep = async () => {
    if (label === heading.label) return;
    await nameRevision(designId, heading.number, label);
    await queries.invalidateQueries({ queryKey: ["revisions", designId] });
  };
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr", md: "90px 190px 1fr 200px auto" },
        gap: 3,
        alignItems: "baseline",
      }}
    >
      <strong>
        Revision {heading.number}
        {open && " · open"}
      </strong>
      <span>{new Date(heading.saved_at).toLocaleString("en-GB")}</span>
      <span>
        {heading.saved_by || "unknown user"}
        {heading.standing === "sibling" && " · kept as a second version"}
      </span>
      <input
        aria-label={`Name of revision ${heading.number}`}
        placeholder="name this revision"
        value={label}
        maxLength={120}
        style={{
          font: "inherit",
          background: "transparent",
          color: "inherit",
          border: `1px solid ${ink("rule")}`,
        }}
        onChange={(event) => setLabel(event.target.value)}
        onBlur={() => void keep()}
        onKeyDown={(event) => {
          if (event.key === "Enter") void keep();
        }}
      />
      <Button onClick={onLook} aria-expanded={looked} disabled={open} sx={{ p: 0 }}>
        {looked ? "Hide" : "Compare"}
      </Button>
    </Box>
  );
}

function Look({
  designId,
  number,
  document,
  onRestore,
}: Pick<Props, "designId" | "number" | "document" | "onRestore">) {
  const read = useQuery({
    queryKey: ["revision", designId, number],
    queryFn: () => readRevision(designId, number),
  });
  if (!read.data) return <Typography>{read.isError ? read.error.message : "Loading …"}</Typography>;
  const old = read.data.document;
  return (
    <Box sx={{ mt: 2, display: "grid", gap: 2 }}>
      <DifferenceTable rows={differences(old, document)} before={`Revision ${number}`} after="Now" />
      <Button variant="outlined" sx={{ justifySelf: "start" }} onClick={() => onRestore(old)}>
        Restore revision {number}
      </Button>
      <Typography variant="caption">
        It becomes the newest revision; undo reverts it, and nothing is lost.
      </Typography>
    </Box>
  );
}
