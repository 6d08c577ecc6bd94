import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";

import type { Design, SizedPlan } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { setWhen, whenOf } from "./sizing";

interface Props {
  document: Design;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  plan: SizedPlan | null;
}

/** What is required of each outlet and when; of others what Demand needs there. */
export function Required({ document, edit, onDone, plan }: Props) {
  const system = usePreferences((state) => state.system);
  const requirements = document.requirements ?? [];
  const stated = new Set(requirements.filter((one) => one.flow_lpm).map((one) => one.outlet));
  const free = (document.outlets ?? []).filter(
    (outlet) => !outlet.shut && outlet.kind !== "fixed" && !stated.has(outlet.id),
  );
  const cases = (document.scenarios ?? []).map((one) => ({
    value: `case ${one.id}`,
    text: `in ${one.name ?? one.id}`,
  }));
  const when = [{ value: "together", text: "with all open" }, { value: "alone", text: "alone" }, ...cases];
  const change = (
    index: number,
    key: string,
    recipe: (wanted: NonNullable<Design["requirements"]>[number]) => void,
  ) =>
    edit(`${key} ${index}`, (draft) => {
      const wanted = draft.requirements?.[index];
      if (wanted) recipe(wanted);
    });
  const state = (outlet: string) =>
    edit(`required ${outlet}`, (draft) => {
      const told = plan?.required.find((one) => one.where === outlet && one.needs.unit === "L/min");
      const flow = told ? Math.max(0.1, Math.round(10 * told.needs.value) / 10) : 10;
      draft.requirements = [...(draft.requirements ?? []), { outlet, flow_lpm: flow }];
    });
  return (
    <section aria-label="Required">
      <Typography variant="h2">What is required</Typography>
      {requirements.map((wanted, index) =>
        wanted.outlet && wanted.flow_lpm ? (
          <Box
            key={index}
            role="group"
            aria-label={nameOfPart(document, wanted.outlet)}
            sx={{ borderTop: `1px solid ${ink("rule")}`, py: 1.5 }}
          >
            <Typography sx={{ fontWeight: 700, fontSize: 14 }}>
              {nameOfPart(document, wanted.outlet)}
            </Typography>
            <Box sx={{ display: "grid", gridTemplateColumns: "110px 1fr auto", gap: 3, alignItems: "end" }}>
              <QuantityField
                label="Flow"
                family="L/min"
                digits={2}
                value={wanted.flow_lpm}
                onChange={(flow) => change(index, "required flow", (one) => void (one.flow_lpm = flow))}
                onDone={onDone}
              />
              <Choice
                label="When"
                value={whenOf(wanted)}
                options={when}
                onChange={(value) => change(index, "required when", (one) => setWhen(one, value))}
              />
              <FormControlLabel
                label="surely"
                title="Also at the worse end of what uncertain heights and bores leave"
                disabled={!!wanted.case}
                control={
                  <Checkbox
                    size="small"
                    checked={!!wanted.surely}
                    onChange={(_, surely) =>
                      change(index, "required surely", (one) => void (one.surely = surely))
                    }
                  />
                }
              />
            </Box>
          </Box>
        ) : null,
      )}
      {free.map((outlet) => {
        const told = plan?.required.find((one) => one.where === outlet.id && one.given === "demand");
        return (
          <Box key={outlet.id} sx={{ borderTop: `1px solid ${ink("rule")}`, py: 1.5, fontSize: 14 }}>
            <strong>{nameOfPart(document, outlet.id)}</strong>:{" "}
            {told
              ? `${quantityText(told.needs, system)}, what Demand takes there in its busiest hour (default)`
              : "what Demand takes there in its busiest hour (default)"}{" "}
            <Box
              component="button"
              type="button"
              onClick={() => state(outlet.id)}
              sx={{
                font: "inherit",
                background: "none",
                border: 0,
                p: 0,
                color: ink("deep"),
                cursor: "pointer",
                textDecoration: "underline",
                minHeight: 24,
              }}
            >
              state a flow
            </Box>
          </Box>
        );
      })}
      {requirements.length === 0 && free.length === 0 && (
        <Typography sx={{ color: ink("faint") }}>
          Place a trough or a tap, and say what it has to give.
        </Typography>
      )}
    </section>
  );
}
