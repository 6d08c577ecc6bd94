import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link, useParams } from "react-router";

import { Choice } from "../../shared/Choice";
import { standing } from "../../shared/standing";
import type { SheetProps } from "./edit";
import { LineSheet } from "./LineSheet";
import { DeleteButton } from "../../shared/DeleteButton";
import { PaddockSheet } from "./PaddockSheet";
import { PlaceSheet } from "./PlaceFields";
import { OutletSheet } from "./OutletSheet";
import { OutletTable } from "./OutletTable";
import { SourceSheet } from "./SourceSheet";
import { VesselSheet } from "./VesselSheet";

const ALL_OUTLETS = "";
const LOGGED = ["Outlets", "Vessels", "Lines"]; // what entries of the log are about
const DELETE: Record<string, string> = {
  Lines: "Delete pipe",
  Paddocks: "Delete paddock",
};

/** Every figure of the plan in real fields: a sheet for each vessel, line and outlet, and what all outlets get. */
export function Sheet(props: SheetProps) {
  const { document, analysis, selected, onSelect } = props;
  const { designId = "" } = useParams();
  const { outlets = [], vessels = [], lines = [] } = document;
  const listed = (parts: { id: string; name?: string | null }[], group: string) =>
    parts.map((part, index) => ({ value: part.id, text: part.name ?? part.id, group, index }));
  const stood = new Set(standing(document).map((part) => part.place));
  const parts = [
    ...listed(outlets, "Outlets"),
    ...listed(vessels, "Vessels"),
    ...listed(document.pressure_sources ?? [], "Sources under pressure"),
    ...listed(lines, "Lines"),
    ...listed(document.places, "Places").filter((part) => !stood.has(part.value)),
    ...listed(document.paddocks ?? [], "Paddocks"),
  ];
  const shown = parts.find((part) => part.value === selected);
  return (
    <Box
      component="section"
      aria-label="Details"
      sx={{ height: "100%", display: "flex", flexDirection: "column" }}
    >
      <Box sx={{ px: 3, pt: 2, pb: 1 }}>
        <Choice
          label="Details of"
          value={shown?.value ?? ALL_OUTLETS}
          options={[{ value: ALL_OUTLETS, text: "all outlets" }, ...parts]}
          onChange={(value) => onSelect(value || null)}
        />
      </Box>
      <Box sx={{ flex: 1, overflowY: "auto", p: 3, pt: 2 }}>
        {!shown && analysis && (
          <OutletTable
            outlets={document.outlets}
            requirements={document.requirements}
            analysis={analysis}
            onSelect={onSelect}
          />
        )}
        {props.more > 0 && (
          <Typography sx={{ mb: 2, fontWeight: 700 }}>
            {props.more + 1} parts are chosen: drag or nudge them together, Delete, or Ctrl+D to copy.
          </Typography>
        )}
        {shown?.group === "Vessels" && <VesselSheet {...props} index={shown.index} key={shown.value} />}
        {shown?.group === "Sources under pressure" && (
          <SourceSheet {...props} index={shown.index} key={shown.value} />
        )}
        {shown?.group === "Lines" && <LineSheet {...props} index={shown.index} key={shown.value} />}
        {shown?.group === "Outlets" && <OutletSheet {...props} index={shown.index} key={shown.value} />}
        {shown?.group === "Paddocks" && <PaddockSheet {...props} index={shown.index} key={shown.value} />}
        {shown?.group === "Places" && <PlaceSheet {...props} placeId={shown.value} key={shown.value} />}
        {shown && (
          <Box sx={{ mt: 3, display: "flex", flexWrap: "wrap", gap: 2, alignItems: "center" }}>
            {LOGGED.includes(shown.group) && (
              <>
                <Button component={Link} to={`/designs/${designId}/log?about=${shown.value}`}>
                  Its log
                </Button>
                <Button component={Link} to={`/designs/${designId}/log?page=trouble&part=${shown.value}`}>
                  Something is wrong
                </Button>
              </>
            )}
            <DeleteButton text={DELETE[shown.group] ?? "Delete"} onClick={props.onRemove} />
          </Box>
        )}
      </Box>
    </Box>
  );
}
