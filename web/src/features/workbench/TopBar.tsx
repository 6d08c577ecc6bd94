import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import NativeSelect from "@mui/material/NativeSelect";
import { useColorScheme } from "@mui/material/styles";
import { useState } from "react";
import { Link } from "react-router";

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

const ORDINARY_AIR_C = 20; // what the document takes where a case says nothing

const BAR_SELECT = {
  color: "inherit",
  fontSize: 13,
  "& svg": { color: "inherit" },
  "&::before": { borderColor: "currentcolor" },
};

/** Site and plan, undo, how saving stands, units, and the case that is shown. */
export function TopBar({ document }: { document: Design }) {
  const { past, future, undo, redo, saving, baseNumber, edit, endStep, designId, replace } = useBench();
  const [listed, setListed] = useState(false);
  const { system, setSystem } = usePreferences();
  const { mode, setMode } = useColorScheme();
  const scenarios = document.scenarios ?? [];
  const save = () =>
    download(
      JSON.stringify(document, null, 2),
      "application/json",
      `${document.site.name} ${document.name}`,
      "json",
    );
  return (
    <Box
      component="header"
      sx={{
        gridArea: "bar",
        displayPrint: "none",
        bgcolor: ink("bar"),
        color: ink("onBar"),
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
        <strong>{document.site.name}</strong> · {document.name}
      </span>
      <Button
        onClick={undo}
        disabled={past.length === 0}
        title={`Ctrl+Z: ${past.length} steps back`}
        sx={{ minWidth: 0 }}
      >
        Undo
      </Button>
      <Button onClick={redo} disabled={future.length === 0} title="Ctrl+Shift+Z" sx={{ minWidth: 0 }}>
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
      {listed && designId && (
        <Revisions
          designId={designId}
          number={baseNumber}
          document={document}
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
      <Pictures name={`${document.site.name} ${document.name}`} />
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
      {scenarios.length > 0 && (
        <NativeSelect
          value={document.shown_for ?? scenarios[0]?.id}
          onChange={(event) => {
            edit("shown-for", (draft) => void (draft.shown_for = event.target.value));
            endStep();
          }}
          inputProps={{ "aria-label": "Shown for" }}
          sx={BAR_SELECT}
        >
          {scenarios.map((scenario) => (
            <option key={scenario.id} value={scenario.id}>
              Shown for: {(scenario.name ?? scenario.id).toLowerCase()}, air{" "}
              {quantityText({ value: scenario.air_c ?? ORDINARY_AIR_C, unit: "°C" }, system)}
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
}

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
