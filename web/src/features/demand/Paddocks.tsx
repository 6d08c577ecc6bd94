import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Design, Fault, Paddock } from "../../api/types";
import { ink } from "../../app/theme";
import { deleted, useEdits } from "../../shared/edits";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { named, troughName } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { QuantityField } from "../../shared/QuantityField";
import { DeleteButton } from "../../shared/DeleteButton";

interface Props {
  document: Design;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** The paddocks, and which trough or tap serves each: moves are told by them. */
export function Paddocks({ document, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const paddocks = document.paddocks ?? [];
  const outlets = document.outlets ?? [];
  const used = new Set((document.calendar ?? []).flatMap((rotation) => rotation.paddocks ?? []));
  const change = (index: number, key: string, recipe: (draft: Paddock) => void) =>
    edit(`paddock${index}.${key}`, (draft) => {
      const own = draft.paddocks?.[index];
      if (own) recipe(own);
    });
  if (!outlets.length) return null;
  return (
    <Box component="section" aria-label="Paddocks" sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}>
      <Typography variant="h2">Paddocks</Typography>
      {paddocks.map((paddock, index) => (
        <Box
          key={paddock.id}
          role="group"
          aria-label={paddock.name ?? paddock.id}
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr 1fr", md: "180px 200px 120px auto" },
            columnGap: 4,
            alignItems: "start",
            my: 1,
          }}
        >
          <PartNameField
            label="Paddock"
            value={named(paddock)}
            onDone={onDone}
            onChange={(name) => change(index, "name", (draft) => void (draft.name = name))}
          />
          <Choice
            label="Water from"
            value={paddock.outlet ?? ""}
            options={[
              ...(paddock.outlet ? [] : [{ value: "", text: "not set yet" }]),
              ...outlets.map((outlet) => ({ value: outlet.id, text: troughName(document, outlet.id) })),
            ]}
            onChange={(value) => {
              change(index, "outlet", (draft) => void (draft.outlet = value || null));
              onDone();
            }}
          />
          <QuantityField
            label="Longest walk to water"
            family="m"
            digits={0}
            value={paddock.farthest_m ?? null}
            fault={faultAt(faults, `/paddocks/${index}/farthest_m`)}
            onDone={onDone}
            onChange={(value) => change(index, "far", (draft) => void (draft.farthest_m = value))}
            onClear={() => change(index, "far", (draft) => void (draft.farthest_m = null))}
          />
          {!used.has(paddock.id) && (
            <DeleteButton
              onClick={() => {
                apply("paddock.deleted", deleted(document.paddocks?.[index]?.id));
                onDone();
              }}
            />
          )}
        </Box>
      ))}
      <Button
        sx={{ p: 0 }}
        onClick={() => {
          apply("paddock.new", [{ kind: "add_paddock", outlet: outlets[0]?.id ?? null }]);
          onDone();
        }}
      >
        Add a paddock
      </Button>
    </Box>
  );
}
