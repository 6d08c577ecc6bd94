import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useRef, useState } from "react";

import { exportDesign, previewImport } from "../../api/client";
import type { Design, ExportKind, Fault, ImportAsked, ImportReport } from "../../api/types";
import { ink } from "../../app/theme";
import { downloadBlob } from "../../shared/download";
import { faultAt, whatIsWrong } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { ImportPreview } from "./ImportPreview";

interface Props {
  document: Design;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  replace: (document: Design) => void;
  onDone: () => void;
}

export type Said = Omit<ImportAsked, "document" | "name">;

const FORMATS: [ExportKind, string][] = [
  ["design", "Design file"],
  ["gpx", "GPX"],
  ["geojson", "GeoJSON"],
  ["kml", "KML"],
  ["csv", "Table of places (CSV)"],
] as const;

/** Open formats in, with a preview and one step of undo, and out. */
export function Files({ document, faults, edit, replace, onDone }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const asked = useRef(0);
  const [file, setFile] = useState<File | null>(null);
  const [said, setSaid] = useState<Said>({});
  const [report, setReport] = useState<ImportReport | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const look = (chosen: File, answers: Said) => {
    const turn = ++asked.current;
    setFile(chosen);
    setSaid(answers);
    setTrouble("Reading …");
    previewImport(chosen, { document, name: chosen.name.slice(0, 120), ...answers })
      .then((found) => {
        if (turn !== asked.current) return;
        setReport(found);
        setTrouble(null);
      })
      .catch((error: unknown) => {
        if (turn !== asked.current) return;
        setReport(null);
        setTrouble(whatIsWrong(error));
      });
  };
  const leave = () => {
    asked.current += 1;
    setFile(null);
    setReport(null);
    setTrouble(null);
    if (input.current) input.current.value = "";
  };
  const save = (kind: ExportKind) => {
    exportDesign(document, kind)
      .then(({ blob, name }) => {
        downloadBlob(blob, name);
        setTrouble(null);
      })
      .catch((error: unknown) => setTrouble(whatIsWrong(error)));
  };
  const anchor = document.site.anchor;
  const setAnchor = (key: "latitude_deg" | "longitude_deg") => (value: number) =>
    edit(`anchor.${key}`, (draft) => {
      draft.site.anchor = { latitude_deg: 0, longitude_deg: 0, ...draft.site.anchor, [key]: value };
    });
  return (
    <>
      <Typography variant="h2">Import</Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        GPX, KML, KMZ, GeoJSON, a table of points (CSV), an ESRI ASCII grid or a GeoTIFF of heights, up to 24
        MB. You see the changes before anything changes, and one undo reverts them.
      </Typography>
      <input
        ref={input}
        type="file"
        aria-label="Survey file"
        accept=".gpx,.kml,.kmz,.geojson,.json,.csv,.txt,.asc,.tif,.tiff"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) look(chosen, {});
        }}
      />
      {trouble && (
        <Typography role="status" sx={{ my: 2, color: ink("short") }} data-testid="import-trouble">
          {trouble}
        </Typography>
      )}
      {file && report && (
        <ImportPreview
          {...{ document, report, said }}
          onSaid={(answers) => look(file, answers)}
          onTake={(made) => {
            replace(made);
            leave();
          }}
          onLeave={leave}
        />
      )}
      <Typography variant="h2" sx={{ mt: 4 }}>
        Export
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        The design file holds everything; the others hold places, lines and paddocks where they lie.
      </Typography>
      <Box role="group" aria-label="Export as" sx={{ display: "flex", flexWrap: "wrap", gap: 2 }}>
        {FORMATS.map(([kind, name]) => (
          <Button key={kind} variant="outlined" onClick={() => save(kind)}>
            {name}
          </Button>
        ))}
      </Box>
      <Typography variant="h2" sx={{ mt: 4 }}>
        Position of the plan
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, alignItems: "end", "& > div": { width: 190 } }}>
        <QuantityField
          label="Latitude of the plan origin"
          family="count"
          digits={6}
          value={anchor?.latitude_deg ?? null}
          hint={anchor ? "degrees" : "unknown: a file can give it"}
          fault={faultAt(faults, "/site/anchor/latitude_deg")}
          onDone={onDone}
          onChange={setAnchor("latitude_deg")}
          onClear={() => edit("anchor", (draft) => void (draft.site.anchor = null))}
        />
        <QuantityField
          label="Longitude of the plan origin"
          family="count"
          digits={6}
          value={anchor?.longitude_deg ?? null}
          hint={anchor ? "degrees, west negative" : undefined}
          fault={faultAt(faults, "/site/anchor/longitude_deg")}
          onDone={onDone}
          onChange={setAnchor("longitude_deg")}
          onClear={() => edit("anchor", (draft) => void (draft.site.anchor = null))}
        />
      </Box>
    </>
  );
}
