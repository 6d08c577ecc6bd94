import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { Link } from "react-router";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { saidText } from "../../shared/saidText";
import { troubleAt } from "./look";
import { useLooks } from "./useLooks";

/** What the looks in a row say of each trough that is still on the plan, and where to find out why. */
export function LookFindings({ designId, document }: { designId: string; document: Design }) {
  const system = usePreferences((state) => state.system);
  const { looks } = useLooks(designId);
  const known = new Set(document.vessels?.map(({ id }) => id));
  const told = looks.filter((one) => one.told.length > 0 && known.has(one.part));
  if (!told.length) return null;
  return (
    <Box component="ul" aria-label="What the looks say" sx={{ listStyle: "none", pl: 0, my: 3 }}>
      {told.map((one) => (
        <Box component="li" key={one.part} sx={{ bgcolor: ink("rail"), px: 3, py: 2, my: 1 }}>
          <span aria-hidden style={{ color: ink("short") }}>
            ■{" "}
          </span>
          <strong>{nameOfPart(document, one.part)}:</strong> {saidText(one.told, system)}{" "}
          <Button sx={{ minHeight: 44 }} component={Link} to={troubleAt(document, one.part)}>
            Find out why
          </Button>
        </Box>
      ))}
    </Box>
  );
}
