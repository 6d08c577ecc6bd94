import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import { setOutFloats } from "../../api/client";
import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import { Drawing } from "./Drawing";
import { FloatMeasures } from "./FloatMeasures";
import type { FloatsSet } from "./floats";
import type { BuildProps } from "./Build";

type Setting = FloatsSet["settings"][number];
type SetFloat = Setting["floats"][number];

/** Every float set out in the section of its vessel: hole, levels, travel, room, and how it is adjusted. */
export function Floats(props: BuildProps) {
  const { document, onShow } = props;
  const system = usePreferences((state) => state.system);
  const answer = useSettled(["floats", system], document, document, (asked: Design, signal) =>
    setOutFloats(asked, system, signal),
  );
  const shown = useKept(answer);
  if (!shown)
    return (
      <Typography variant="h1" sx={{ p: 4 }}>
        Setting out the floats …
      </Typography>
    );
  if (!shown.settings.length)
    return <Typography sx={{ p: 4 }}>No float valve of this plan fills a vessel.</Typography>;
  return (
    <Box component="section" aria-label="Floats" sx={{ p: 4 }}>
      <Typography variant="h1">Floats</Typography>
      <ul style={{ maxWidth: 720, paddingLeft: 20 }}>
        {shown.how.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {shown.settings.map((setting) => (
        <Box
          key={setting.vessel}
          component="article"
          aria-label={nameOfPart(document, setting.vessel)}
          data-testid={`setting-${setting.vessel}`}
          sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3, opacity: answer ? 1 : 0.6 }}
        >
          <Typography component="h2" sx={{ fontWeight: 700, fontSize: 16 }}>
            <Button
              sx={{ p: 0, minWidth: 24, minHeight: { xs: 44, md: 24 }, fontSize: "inherit", fontWeight: 700 }}
              onClick={() => onShow(setting.vessel)}
            >
              {nameOfPart(document, setting.vessel)}
            </Button>
          </Typography>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, alignItems: "flex-start" }}>
            <Drawing svg={shown.drawings[setting.vessel] ?? ""} least={520} most={620} />
            <Box sx={{ flex: "1 1 280px", maxWidth: 520, fontSize: 14 }}>
              {setting.floats.map((one) => (
                <FloatSaid key={one.outlet} one={one} document={document} free={shown.free_mm} />
              ))}
              {setting.notes.map((note, number) => (
                <p key={number} style={{ margin: "6px 0" }}>
                  {saidText(note, system)}
                </p>
              ))}
              <FloatMeasures {...props} setting={setting} />
            </Box>
          </Box>
        </Box>
      ))}
      <Caution>
        Animals die within days without water: look at every float once a day, and again the day after it was
        set.
      </Caution>
    </Box>
  );
}

function FloatSaid({ one, document, free }: { one: SetFloat; document: Design; free: number }) {
  const system = usePreferences((state) => state.system);
  const mm = (value: number) =>
    quantityText({ value, unit: "mm", digits: system === "metric" ? 0 : 1 }, system);
  const tight = one.rooms.filter((room) => room.room_mm < free);
  const rooms = (tight.length ? tight : one.rooms).map((room) =>
    room.room_mm < 0 ? `it meets ${room.to}, by ${mm(-room.room_mm)}` : `${mm(room.room_mm)} to ${room.to}`,
  );
  return (
    <Box data-testid={`float-${one.outlet}`} sx={{ my: 2 }}>
      <Box sx={{ fontWeight: 700 }}>{nameOfPart(document, one.outlet)}</Box>
      <Box>
        {one.is_known ? one.what : `Drawn as ${one.what}, which passes about as much`}
        {one.float_mm !== null && one.arm_mm !== null && (
          <>
            : float {mm(one.float_mm)} across, arm {mm(one.arm_mm)}
            {one.sunk_mm !== null && `, ${mm(one.sunk_mm)} deep in the water when it shuts`}
          </>
        )}
        .
      </Box>
      {rooms.length > 0 && (
        <Box sx={tight.length ? { color: ink("short"), fontWeight: 700 } : undefined}>
          Room: {rooms.join("; ")}. {tight.length ? `${mm(free)} is wanted.` : ""}
        </Box>
      )}
      {one.adjust.map((line, number) => (
        <Box key={number}>{saidText(line, system)}</Box>
      ))}
    </Box>
  );
}
