import Box from "@mui/material/Box";

import { Choice } from "../../shared/Choice";
import type { SheetProps } from "./edit";
import { LineSheet } from "./LineSheet";
import { OutletSheet } from "./OutletSheet";
import { OutletTable } from "./OutletTable";
import { VesselSheet } from "./VesselSheet";

const ALL_OUTLETS = "";

/** Every figure of the plan in real fields: a sheet for each vessel, line and outlet, and what all outlets get. */
export function Sheet(props: SheetProps) {
  const { document, analysis, selected, onSelect } = props;
  const { outlets = [], vessels = [], lines = [] } = document;
  const listed = (parts: { id: string; name?: string | null }[], group: string) =>
    parts.map((part, index) => ({ value: part.id, text: part.name ?? part.id, group, index }));
  const parts = [...listed(outlets, "Outlets"), ...listed(vessels, "Vessels"), ...listed(lines, "Lines")];
  const shown = parts.find((part) => part.value === selected);
  return (
    <Box
      component="section"
      aria-label="Figures"
      sx={{ height: "100%", display: "flex", flexDirection: "column" }}
    >
      <Box sx={{ px: 3, pt: 2, pb: 1 }}>
        <Choice
          label="Figures of"
          value={shown?.value ?? ALL_OUTLETS}
          options={[{ value: ALL_OUTLETS, text: "all outlets: what each gets" }, ...parts]}
          onChange={(value) => onSelect(value || null)}
        />
      </Box>
      <Box sx={{ flex: 1, overflowY: "auto", p: 3, pt: 2 }}>
        {!shown && analysis && <OutletTable document={document} analysis={analysis} onSelect={onSelect} />}
        {shown?.group === "Vessels" && <VesselSheet {...props} index={shown.index} key={shown.value} />}
        {shown?.group === "Lines" && <LineSheet {...props} index={shown.index} key={shown.value} />}
        {shown?.group === "Outlets" && <OutletSheet {...props} index={shown.index} key={shown.value} />}
      </Box>
    </Box>
  );
}
