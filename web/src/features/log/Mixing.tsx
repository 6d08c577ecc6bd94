import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import { tellDoses } from "../../api/field";
import type { Design, Dosing } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import { DoseTold } from "./DoseTold";
import type { Mixes } from "./Log";
import { RecipeFields } from "./RecipeFields";

/** Recipes for the water of this plan: how much for what is in it now, how to mix it, how strong it stays. */
export function Mixing({ document, faults, edit, onDone }: Mixes) {
  const told = useKept(
    useSettled(["doses"], document, document, (asked: Design, signal) => tellDoses(asked, signal)),
  );
  const dosings = document.dosings ?? [];
  const vessels = (document.vessels ?? []).filter(({ role }) => role !== "trough");
  const add = () => {
    const taken = new Set(dosings.map(({ id }) => id));
    let number = 1;
    while (taken.has(`recipe-${number}`)) number += 1;
    const vessel = vessels[0]?.id;
    if (!vessel) return;
    const fresh: Dosing = { id: `recipe-${number}`, vessel, amount: 1, measure: "tsp", per_l: 10 };
    edit("dosings", (draft) => void (draft.dosings = [...(draft.dosings ?? []), fresh]));
    onDone();
  };
  const remove = (index: number) => {
    edit("dosings", (draft) => {
      const left = (draft.dosings ?? []).filter((_, at) => at !== index);
      if (left.length) draft.dosings = left;
      else delete draft.dosings;
    });
    onDone();
  };
  return (
    <Box component="section" aria-label="Mixing" sx={{ p: 4, maxWidth: 760 }}>
      <Typography variant="h1">Mixing</Typography>
      {!dosings.length && (
        <Typography sx={{ my: 2 }}>
          No recipe yet. Take it from the packet: an amount, and the litres that it is for.
        </Typography>
      )}
      {dosings.map((dosing, index) => (
        <Box component="article" key={dosing.id} aria-label={dosing.name ?? dosing.id} sx={{ my: 4 }}>
          <RecipeFields
            document={document}
            dosing={dosing}
            index={index}
            faults={faults}
            edit={edit}
            onDone={onDone}
            onDelete={() => remove(index)}
          />
          {told?.doses
            .filter(({ id }) => id === dosing.id)
            .map((dose) => (
              <DoseTold key={dose.id} document={document} dose={dose} />
            ))}
        </Box>
      ))}
      <Button variant="outlined" sx={{ minHeight: 48 }} disabled={!vessels.length} onClick={add}>
        Add a recipe
      </Button>
      <Caution>
        Acids and concentrated fertilisers burn eyes and skin: gloves, goggles, acid into water and never
        water into acid, and nothing mixed with bleach. Keep animals and children from dosed water, and dosed
        water from drinking-water lines: an air gap or a backflow preventer under the local plumbing code. The
        packet goes before this page.
      </Caution>
    </Box>
  );
}
