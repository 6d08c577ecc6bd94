import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useRef, useState } from "react";

import type { LogEntry } from "../api/types";
import { ink } from "../app/theme";
import { FileInput } from "./FileInput";
import { note } from "./logQueue";
import { newEntry } from "./newEntry";
import { BlobImage } from "./PhotoShown";
import { usePreferences } from "./preferences";

const KINDS = ["image/jpeg", "image/png", "image/webp"];
const LARGEST_BYTES = 24_000_000;

/** Why a file is not taken; null where it is. The server looks again. */
export function refusedPhoto(file: File): string | null {
  if (!KINDS.includes(file.type))
    return `${file.name} is ${file.type || "of no known kind"}: take a JPEG, PNG or WebP picture.`;
  if (file.size > LARGEST_BYTES)
    return `${file.name} has ${(file.size / 1e6).toFixed(0)} MB: take one of at most ${LARGEST_BYTES / 1e6} MB.`;
  return file.size === 0 ? `${file.name} is empty.` : null;
}

interface Props {
  designId: string;
  /** what the photo is of: a part, a step */
  about: Partial<Pick<LogEntry, "part" | "part_name" | "figures">>;
}

/** Takes a photo and notes it, with a word on it; it waits on this device until there is a connection. */
export function PhotoNote({ designId, about }: Props) {
  const who = usePreferences((state) => state.name);
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [said, setSaid] = useState("");
  const [keepPlace, setKeepPlace] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const leave = () => {
    setFile(null);
    setSaid("");
    setKeepPlace(false);
  };
  const keep = async () => {
    if (!file) return;
    await note(designId, newEntry({ kind: "photo", said, ...about }, who), { file, keepPlace });
    leave();
  };
  const take = (chosen: File) => {
    const why = refusedPhoto(chosen);
    setRefused(why);
    if (!why) setFile(chosen);
  };
  return (
    <Box sx={{ my: 2 }}>
      <FileInput ref={input} label="The photo" accept={KINDS.join(",")} onFile={take} />
      {file ? (
        <Box component="section" aria-label="The photo in hand" sx={{ bgcolor: ink("rail"), p: 3 }}>
          <BlobImage
            file={file}
            alt="As taken"
            onError={() => {
              setRefused(`${file.name} cannot be drawn: it is damaged, or no picture.`);
              leave();
            }}
          />
          <TextField
            label="What it shows"
            value={said}
            size="small"
            variant="standard"
            fullWidth
            sx={{ mt: 2 }}
            onChange={(event) => setSaid(event.target.value.slice(0, 200))}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <FormControlLabel
            sx={{ minHeight: 44 }}
            control={
              <Checkbox checked={keepPlace} onChange={(event) => setKeepPlace(event.target.checked)} />
            }
            label="Keep where it was taken"
          />
          <Box sx={{ display: "flex", gap: 2 }}>
            <Button
              variant="contained"
              sx={{ minHeight: 48, flex: 1 }}
              onClick={() => void keep().catch(() => undefined)}
            >
              Note the photo
            </Button>
            <Button variant="outlined" sx={{ minHeight: 48 }} onClick={leave}>
              Cancel
            </Button>
          </Box>
        </Box>
      ) : (
        <Button variant="outlined" sx={{ minHeight: 48 }} onClick={() => input.current?.click()}>
          Take a photo
        </Button>
      )}
      {refused && (
        <Box role="alert" sx={{ mt: 1, color: ink("short"), fontWeight: 700 }}>
          {refused} Nothing was noted.
        </Box>
      )}
    </Box>
  );
}
