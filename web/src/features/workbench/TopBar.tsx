import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import NativeSelect from "@mui/material/NativeSelect";
import { useColorScheme } from "@mui/material/styles";
import { memo, useState } from "react";
import { Link } from "react-router";
import { useShallow } from "zustand/react/shallow";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { Brand } from "../../shared/Brand";
import { download } from "../../shared/download";
import { usePreferences } from "../../shared/preferences";
import { quantityText, type System } from "../../shared/units";
import { Revisions } from "../revisions";
import { KeysSheet } from "./KeysSheet";
import { Pictures } from "./Pictures";
import { useBench, type Saving } from "./store";
import { useDefaults } from "../../shared/defaults";

const BAR_SELECT = {
  color: "inherit",
  fontSize: 13,
  "& svg": { color: "inherit" },
  "&::before": { borderColor: "currentcolor" },
};

interface Props {
  site: string;
  name: string;
  scenarios: Design["scenarios"];
  shownFor: string | null | undefined;
}

/** Site and plan, undo, how saving stands, units, and the case that is shown. */
export const TopBar = memo(function TopBar({ site, name, scenarios, shownFor }: Props) {
  const { back, forward, undo, redo, saving, baseNumber, edit, endStep, designId, replace } = useBench(
    useShallow((bench) => ({
      back: bench.past.length,
      forward: bench.future.length,
      undo: bench.undo,
      redo: bench.redo,
      saving: bench.saving,
      baseNumber: bench.baseNumber,
      edit: bench.edit,
      endStep: bench.endStep,
      designId: bench.designId,
      replace: bench.replace,
    })),
  );
  const [listed, setListed] = useState(false);
  const { system, setSystem } = usePreferences();
  const ordinary = useDefaults()?.air_c;
  const { mode, setMode } = useColorScheme();
  const airText = (air_c: number | undefined) =>
    air_c === undefined ? "" : `, air ${quantityText({ value: air_c, unit: "°C" }, system)}`;
  const title = `${site} ${name}`;
  const now = () => useBench.getState().document; // read when asked: the bar does not follow every edit
  const save = () => download(JSON.stringify(now(), null, 2), "application/json", title, "json");
  const compared = listed ? now() : null;
  return (
    <Box
      component="header"
      sx={{
        gridArea: "bar",
        displayPrint: "none",
        bgcolor: ink("bar"),
        color: ink("onBar"),
        "&& :focus-visible": { outlineColor: "currentColor", outlineOffset: -2 }, // the bar is dark and cuts off
        "&& .Mui-focused::after": { borderBottomColor: "currentColor" },
        px: 3,
        display: "flex",
        alignItems: "center",
        columnGap: { xs: 2, md: 4 },
        py: { xs: 1, md: 0 },
        flexWrap: { xs: "wrap", md: "nowrap" },
        overflowX: { md: "auto" },
        whiteSpace: "nowrap",
        "& button": { color: "inherit" },
        "& button.Mui-disabled": { color: "inherit", opacity: 0.45 },
      }}
    >
      <Link to="/" style={{ color: "inherit", textDecoration: "none" }} aria-label="Leadsman, all plans">
        <Brand />
      </Link>
      <span>
        <strong>{site}</strong> · {name}
      </span>
      <Button onClick={undo} disabled={back === 0} title={`Ctrl+Z: ${back} steps back`} sx={{ minWidth: 0 }}>
        Undo
      </Button>
      <Button onClick={redo} disabled={forward === 0} title="Ctrl+Shift+Z" sx={{ minWidth: 0 }}>
        Redo
      </Button>
      <Box component="span" sx={{ flex: 1, opacity: 0.85 }}>
        <span role="status" data-testid="saving">
          {savingText(saving, baseNumber)}
        </span>
        <Button onClick={() => setListed(true)} sx={{ minWidth: 0, textDecoration: "underline" }}>
          Revisions
        </Button>
      </Box>
      {compared && designId && (
        <Revisions
          designId={designId}
          number={baseNumber}
          document={compared}
          onRestore={(old) => {
            replace(old);
            setListed(false);
          }}
          onLeave={() => setListed(false)}
        />
      )}
      <Button onClick={save} sx={{ minWidth: 0 }}>
        Save as file
      </Button>
      <Pictures name={title} />
      <NativeSelect
        value={system}
        onChange={(event) => setSystem(event.target.value as System)}
        inputProps={{ "aria-label": "Units" }}
        sx={BAR_SELECT}
      >
        <option value="metric">L · m · kPa · °C</option>
        <option value="us">US gal · ft · psi · °F</option>
        <option value="imperial">imp gal · ft · psi · °C</option>
      </NativeSelect>
      {scenarios && scenarios.length > 0 && (
        <NativeSelect
          value={shownFor ?? scenarios[0]?.id}
          onChange={(event) => {
            edit("shown-for", (draft) => void (draft.shown_for = event.target.value));
            endStep();
          }}
          inputProps={{ "aria-label": "Shown for" }}
          sx={BAR_SELECT}
        >
          {scenarios.map((scenario) => (
            <option key={scenario.id} value={scenario.id}>
              Shown for: {(scenario.name ?? scenario.id).toLowerCase()}
              {airText(scenario.air_c ?? ordinary)}
            </option>
          ))}
        </NativeSelect>
      )}
      <Button onClick={() => setMode(mode === "dark" ? "light" : "dark")} sx={{ minWidth: 0 }}>
        {mode === "dark" ? "Light" : "Dark"}
      </Button>
      <KeysSheet />
    </Box>
  );
});

function savingText(saving: Saving, number: number): string {
  switch (saving.state) {
    case "saved":
      return `saved · revision ${number}`;
    case "waiting":
      return `changed since revision ${number}`;
    case "saving":
      return "saving …";
    case "failed":
      return "not saved: kept here, trying again";
    case "refused":
      return "not saved: a figure is not allowed";
    case "conflict":
      return "not saved: changed elsewhere";
  }
}
