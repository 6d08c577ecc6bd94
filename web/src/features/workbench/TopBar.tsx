import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useColorScheme, useTheme } from "@mui/material/styles";
import { memo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { useShallow } from "zustand/react/shallow";

import type { Design, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { Brand } from "../../shared/Brand";
import { useDefaults } from "../../shared/defaults";
import { lazyPart } from "../../shared/lazyPart";
import { usePreferences } from "../../shared/preferences";
import { RenameDialog, useCopyPlan } from "../sites";
import { Cases } from "./Cases";
import { BarMenu, type MenuSection } from "./BarMenu";
import { caseText, fileEntries, unitEntries, UNITS } from "./barMenus";
import { useKey } from "./useKey";
import { useBench, type Saving } from "./store";

const Revisions = lazyPart(async () => (await import("../revisions")).Revisions);
const KeysSheet = lazyPart(async () => (await import("./KeysSheet")).KeysSheet);

interface Props {
  site: string;
  name: string;
  scenarios: Design["scenarios"];
  shownFor: string | null | undefined;
  faults: Fault[];
}

type Asked = "history" | "rename" | "cases" | "keys" | null;

/** One row: the plan, undo, how saving stands, and what is used now and then in menus. */
export const TopBar = memo(function TopBar({ site, name, scenarios, shownFor, faults }: Props) {
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
  const [asked, setAsked] = useState<Asked>(null);
  const { system, setSystem } = usePreferences();
  const ordinaryC = useDefaults()?.air_c;
  const { mode, setMode } = useColorScheme();
  const navigate = useNavigate();
  const copy = useCopyPlan();
  const narrow = useMediaQuery(useTheme().breakpoints.down("md"));
  const title = `${site} ${name}`;
  const now = () => useBench.getState().document; // read when asked: the bar does not follow every edit
  const shownCase = scenarios?.find((one) => one.id === shownFor) ?? scenarios?.[0];

  const plan: MenuSection = {
    title: "Plan",
    entries: [
      { text: "Rename plan", onChoose: () => setAsked("rename") },
      { text: "Copy plan", onChoose: () => designId && copy.mutate(designId) },
      {
        text: "Delete plan",
        onChoose: () =>
          void navigate("/", { state: { deleted: { id: designId, name: `${site} · ${name}` } } }),
      },
      { text: "All plans", onChoose: () => void navigate("/") },
    ],
  };
  const file = (): MenuSection => ({ title: "File", entries: fileEntries(title, now()) });
  const cases: MenuSection[] = [
    {
      title: "Case",
      entries: (scenarios ?? []).map((scenario) => ({
        text: caseText(scenario, ordinaryC, system),
        checked: scenario === shownCase,
        onChoose: () => {
          edit("shown-for", (draft) => void (draft.shown_for = scenario.id));
          endStep();
        },
      })),
    },
    { title: "Cases", entries: [{ text: "Add or edit cases", onChoose: () => setAsked("cases") }] },
  ];
  const settings: MenuSection[] = [
    { title: "Units", entries: unitEntries(system, setSystem) },
    {
      title: "Theme",
      entries: (["light", "dark"] as const).map((one) => ({
        text: one === "light" ? "Light" : "Dark",
        checked: mode === one,
        onChoose: () => setMode(one),
      })),
    },
  ];
  const history = { text: "History", onChoose: () => setAsked("history") };
  const keys = { text: "Keyboard shortcuts", onChoose: () => setAsked("keys") };
  useKey("?", keys.onChoose);
  const document = asked === "history" || asked === "rename" ? now() : null;
  return (
    <Box
      component="header"
      sx={{
        gridArea: "bar",
        displayPrint: "none",
        bgcolor: ink("bar"),
        color: ink("onBar"),
        "&& :focus-visible": { outlineColor: "currentColor", outlineOffset: -2 }, // the bar is dark and cuts off
        px: { xs: 2, md: 3 },
        minWidth: 0,
        height: { xs: 48, md: 46 },
        display: "flex",
        alignItems: "center",
        columnGap: { xs: 1, md: 3 },
        whiteSpace: "nowrap",
        overflowX: { xs: "hidden", md: "auto" }, // with text of twice the size
        "& button": { color: "inherit", minHeight: { xs: 44, md: 30 } },
        "& button.Mui-disabled": { color: "inherit", opacity: 0.45 },
      }}
    >
      <Link
        to="/"
        style={{
          color: "inherit",
          textDecoration: "none",
          display: "flex",
          alignItems: "center",
          minHeight: 44,
          minWidth: 44,
        }}
        aria-label="Leadsman, all plans"
      >
        <Brand short={narrow} />
      </Link>
      {narrow ? (
        <Named site={site} name={name} />
      ) : (
        <BarMenu label={<Named site={site} name={name} />} sections={() => [plan]} />
      )}
      <Button
        onClick={undo}
        disabled={back === 0}
        title={`Ctrl+Z: ${back} steps back`}
        sx={{ minWidth: { xs: 44, md: 0 } }}
      >
        Undo
      </Button>
      {!narrow && (
        <Button onClick={redo} disabled={forward === 0} title="Ctrl+Shift+Z" sx={{ minWidth: 0 }}>
          Redo
        </Button>
      )}
      <Box
        component="span"
        role="status"
        data-testid="saving"
        sx={{ flex: 1, minWidth: 0, opacity: 0.85, overflow: "hidden", textOverflow: "ellipsis" }}
      >
        {savingText(saving, baseNumber)}
      </Box>
      {narrow ? (
        <BarMenu
          label="Menu"
          titled
          sections={() => [
            plan,
            ...cases,
            { title: "Tools", entries: [{ text: "Redo", onChoose: redo }, history, keys] },
            file(),
            ...settings,
          ]}
        />
      ) : (
        <>
          <BarMenu label="File" sections={() => [file()]} />
          <Button onClick={history.onChoose} sx={{ minWidth: 0 }}>
            History
          </Button>
          <BarMenu
            label={`Case: ${shownCase ? caseText(shownCase, ordinaryC, system) : "Ordinary day"}`}
            sections={() => cases}
          />
          <BarMenu
            label={UNITS[system]}
            name={`Units and theme: ${UNITS[system]}`}
            titled
            sections={() => settings}
          />
          <Button
            onClick={keys.onChoose}
            aria-label="Keyboard shortcuts"
            title="Keyboard shortcuts (?)"
            sx={{ minWidth: 28 }}
          >
            ?
          </Button>
        </>
      )}
      {asked === "history" && document && designId && (
        <Revisions
          designId={designId}
          number={baseNumber}
          document={document}
          onRestore={(old) => {
            replace(old);
            setAsked(null);
          }}
          onLeave={() => setAsked(null)}
        />
      )}
      {asked === "rename" && (
        <RenameDialog
          name={name}
          onRename={(next) => {
            edit("plan.name", (draft) => void (draft.name = next));
            endStep();
            setAsked(null);
          }}
          onLeave={() => setAsked(null)}
        />
      )}
      {asked === "cases" && <Cases faults={faults} onLeave={() => setAsked(null)} />}
      {asked === "keys" && <KeysSheet onClose={() => setAsked(null)} />}
    </Box>
  );
});

function Named({ site, name }: Pick<Props, "site" | "name">) {
  return (
    <Box
      component="span"
      sx={{ overflow: "hidden", textOverflow: "ellipsis", maxWidth: { xs: 150, md: 300 } }}
    >
      <strong>{site}</strong>
      <span style={{ fontWeight: 400 }}> · {name}</span>
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
      return "not saved: a value is not allowed";
    case "conflict":
      return "not saved: changed elsewhere";
  }
}
