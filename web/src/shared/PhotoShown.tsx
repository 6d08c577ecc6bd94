import Box from "@mui/material/Box";
import { useEffect, useRef } from "react";

import { photoAddress } from "../api/field";
import type { LogEntry } from "../api/types";
import { ink } from "../app/theme";
import { useQueue } from "./logQueue";

const SEEN = { display: "block", maxWidth: 240, maxHeight: 240, borderRadius: 1 } as const;
const PLACE_DIGITS = 5;

/** A picture that is on this device. */
export function BlobImage({ file, alt, onError }: { file: Blob; alt: string; onError?: () => void }) {
  const image = useRef<HTMLImageElement>(null);
  useEffect(() => {
    const address = URL.createObjectURL(file);
    if (image.current) image.current.src = address;
    return () => URL.revokeObjectURL(address);
  }, [file]);
  return <Box component="img" ref={image} alt={alt} onError={onError} sx={SEEN} />;
}

/** The photo of an entry: from here while it waits, from the server afterwards. */
export function PhotoShown({ designId, entry }: { designId: string; entry: LogEntry }) {
  const waiting = useQueue((queue) => queue.waiting).find(({ id }) => id === entry.id)?.photo;
  const alt = entry.said || `Photo of ${entry.part_name ?? "the line"}`;
  if (entry.kind !== "photo") return null;
  if (waiting) return <BlobImage file={waiting.file} alt={alt} />;
  if (!entry.has_photo)
    return <Box sx={{ color: ink("faint") }}>The photo waits on the device that took it.</Box>;
  return (
    <Box>
      <a href={photoAddress(designId, entry.id, "large")} target="_blank" rel="noreferrer">
        <Box
          component="img"
          loading="lazy"
          src={photoAddress(designId, entry.id, "small")}
          alt={alt}
          sx={SEEN}
        />
      </a>
      {entry.latitude_deg != null && entry.longitude_deg != null && (
        <Box sx={{ color: ink("faint"), fontSize: 13 }}>
          Taken at {entry.latitude_deg.toFixed(PLACE_DIGITS)}°, {entry.longitude_deg.toFixed(PLACE_DIGITS)}°
        </Box>
      )}
    </Box>
  );
}
