import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useCallback, useDeferredValue, useMemo, useState, type ReactNode } from "react";

import type { ReachAsked } from "../../api/client";
import type { Analysis, Catalogue, Design, Fault, Finding } from "../../api/types";
import { ink } from "../../app/theme";
import type { Scale } from "../../shared/fit";
import { named } from "../../shared/names";
import { HEARD } from "../../shared/heard";
import { lazyPart } from "../../shared/lazyPart";
import { usePreferences } from "../../shared/preferences";
import { routeOf, type ShownRoute } from "../../shared/route";
import { figure, shownUnit, toShown } from "../../shared/units";
import { standing } from "../../shared/standing";
import {
  fenceNameAreas,
  Fences,
  GroundUnder,
  HoseCircles,
  LayersPanel,
  PinDialog,
  useBackground,
} from "../background";
import { markAreas, PlanMarks, SectionMarks } from "../finding";
import { inlineAreas, Plan } from "../plan";
import { Section } from "../section";
import { useBench } from "./store";
import { sketched } from "./sketch";
import { ToolBar } from "./ToolBar";
import { DrawingTold } from "./DrawingTold";
import { useRemove } from "./useRemove";
import { BETWEEN, useCourse } from "./useCourse";
import { Main } from "./Main";
import type { Details } from "./SideColumn";
import { useDrawing } from "./useDrawing";
import { useLinesKeys } from "./useLinesKeys";

const Tables = lazyPart(
  async () => (await import("../tables")).Tables,
  <Typography sx={{ p: 4 }}>Opening the tables …</Typography>,
);

const Sheet = lazyPart(
  async () => (await import("../sheet")).Sheet,
  <Typography sx={{ p: 4 }}>Opening …</Typography>,
);
const DrawingDialogs = lazyPart(async () => (await import("./DrawingDialogs")).DrawingDialogs);

// what stands for an answer that has not come yet
const NONE: Analysis["solution"]["lines"] = {};
const NO_GIVERS: string[] = [];
const NO_PIPES: Analysis["pipes"] = {};
const NO_RATINGS: Analysis["limits_kpa"] = {};
const NO_LIMITS: Analysis["spare_limits_m"] = [0, 0];

const COPY_OFF_M = 20;

interface Props {
  document: Design;
  /** null until the first answer has come: the plan can be drawn and edited meanwhile */
  analysis: Analysis | null;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  findings: Finding[];
  routes: ShownRoute[];
  /** the right-hand column about what this view has chosen */
  column: (details: Details) => ReactNode;
}

/** Plan above with its figures beside it, profile below, one cursor in both. */
export function LinesView({ document, analysis, catalogue, faults, findings, routes, column }: Props) {
  const {
    selected,
    also,
    select,
    selectAlso,
    selectAll,
    cursorM,
    setCursor,
    edit,
    apply,
    drag,
    endStep,
    together,
    setTogether,
    tryOut,
    setSide,
  } = useBench();
  const system = usePreferences((state) => state.system);
  const between = useCourse(document);
  const route = between.asked ? between.course : routeOf(routes, selected, document);
  const chosen = useMemo(() => (selected === null ? [] : [selected, ...also]), [selected, also]);
  const running = useMemo(
    () =>
      new Set(
        Object.entries(analysis?.solution.lines ?? NONE).flatMap(([id, line]) =>
          line.state === "running" ? [id] : [],
        ),
      ),
    [analysis?.solution],
  );
  // beside the plan, figures follow when there is time: the plan and the numbers come first while something is dragged
  const sheetDocument = useDeferredValue(document);
  const sheetAnalysis = useDeferredValue(analysis);
  const [reachAsked, setReachAsked] = useState<ReachAsked | null>(null);
  const [layers, setLayers] = useState(false);
  const [chosenLast, setChosenLast] = useState(selected);
  if (chosenLast !== selected) {
    setChosenLast(selected);
    if (selected !== null) setLayers(false); // its details take the place of the background's
  }
  const [tables, setTables] = useState(false);
  const [toPin, setToPin] = useState<{ file: File | null } | null>(null);
  const background = useBackground(useBench((bench) => bench.designId) ?? "", document, reachAsked);
  const { groundAt } = background;
  const limitM = analysis?.demand.walk_limit_m ?? null;
  const tellMetres = (m: number) => `${figure(toShown(m, "m", system), 1)} ${shownUnit("m", system)}`;
  const drawing = useDrawing(document, groundAt, tellMetres);
  const { tool, told } = drawing;
  const { remove, dialog } = useRemove(document, chosen);
  useLinesKeys({
    tool,
    chosen,
    take: drawing.take,
    nudge: ([east, north]) =>
      apply(`${chosen.join()}.nudged`, [{ kind: "move_parts", parts: chosen, by: [east, north] }], {
        relative: true,
      }),
    remove,
    copy: () => {
      apply("parts.copied", [{ kind: "copy_parts", parts: chosen, by: [COPY_OFF_M, -COPY_OFF_M] }], {
        then: selectAll,
      });
      endStep();
    },
    chooseAll: () => selectAll([...standing(document), ...document.places].map((part) => part.id)),
    unchoose: () => select(null),
  });
  const moveInline = (line: string, index: number, atM: number) =>
    edit(`${line}.inline${index}`, (draft) => {
      const part = draft.lines?.find((one) => one.id === line)?.inline?.[index];
      if (part) part.at_m = atM;
    });
  const fenced = usePreferences((state) => state.layers.paddocks);
  const keepOff = useCallback(
    (scale: Scale) => [
      ...markAreas(findings, document, scale),
      ...(fenced ? fenceNameAreas(document, scale) : []),
      ...inlineAreas(document, scale),
    ],
    [findings, document, fenced],
  );
  const { outlets, vessels, pressure_sources: sources, lines } = document;
  const ways = useMemo(() => {
    const names = new Map(
      [...(vessels ?? []), ...(outlets ?? []), ...(sources ?? [])].map((part) => [part.id, named(part)]),
    );
    const nameOf = (id: string) => names.get(id) ?? id;
    return [
      ...routes.flatMap(({ key, vessel, end }) =>
        vessel ? [{ value: key, text: `${nameOf(vessel)} → ${nameOf(end)}` }] : [],
      ),
      { value: BETWEEN, text: "between two places …" },
    ];
  }, [routes, outlets, vessels, sources]);
  const choose = useCallback(
    (id: string | null, add = false) => (add && id !== null ? selectAlso(id) : select(id)),
    [select, selectAlso],
  );
  const details = layers ? (
    <LayersPanel
      document={document}
      givers={analysis?.givers ?? NO_GIVERS}
      catalogue={catalogue}
      background={background}
      reachAsked={reachAsked}
      limitM={limitM}
      onReach={setReachAsked}
      onPicture={(file) => setToPin({ file })}
      onHose={(metres) => edit("site.hose", (draft) => void (draft.site.hose_m = metres))}
      onDone={endStep}
    />
  ) : (
    <Sheet
      document={sheetDocument}
      analysis={sheetAnalysis}
      catalogue={catalogue}
      faults={faults}
      selected={selected}
      onSelect={(id) => {
        select(id);
        setSide("details");
      }}
      edit={edit}
      onDone={endStep}
      onRemove={remove}
      onTry={tryOut}
      more={also.length}
    />
  );
  return (
    <>
      <Main>
        <Typography variant="h1" className="not-printed" sx={HEARD}>
          Lines of {document.name}
        </Typography>
        <Box
          sx={{
            height: "100%",
            display: "grid",
            "@media print": { gridTemplateColumns: "1fr", gridTemplateRows: "90mm 95mm", height: "auto" },
            gridTemplateColumns: "minmax(0, 1fr)",
            gridTemplateRows: { xs: "330px 300px", md: "minmax(0, 1fr) minmax(0, 1fr)" },
          }}
        >
          <Box sx={{ position: "relative", minHeight: 0 }}>
            <Plan
              onInline={moveInline}
              document={document}
              routes={routes}
              running={running}
              pipes={analysis?.pipes ?? NO_PIPES}
              spareLimits={analysis?.spare_limits_m ?? NO_LIMITS}
              chosen={chosen}
              route={route}
              cursorM={cursorM}
              tool={tool}
              under={(scale, frame, covered) => (
                <GroundUnder
                  relief={background.relief}
                  picture={background.picture}
                  reach={background.reach}
                  scale={scale}
                  frame={frame}
                  covered={covered}
                />
              )}
              within={(scale, marked) => (
                <>
                  <Fences document={document} scale={scale} chosen={marked} limitM={limitM} />
                  <HoseCircles document={document} scale={scale} />
                </>
              )}
              keepOff={keepOff}
              over={(scale) => <PlanMarks findings={findings} document={document} scale={scale} />}
              onSelect={choose}
              onSelectAll={selectAll}
              start={drawing.start}
              snap={drawing.snap}
              onDrawn={drawing.onDrawn}
              onSketch={sketched}
              onMove={(moves) =>
                drag(`${[...moves.keys()].join()}.moved`, [
                  {
                    kind: "move_places",
                    places: Object.fromEntries([...moves].map(([id, [x, y]]) => [id, [x, y]])),
                  },
                ])
              }
              onCorners={(line, corners) =>
                drag(`${line}.way`, [{ kind: "set_corners", line, corners: corners.map(([x, y]) => [x, y]) }])
              }
              onFence={(paddock, corners) =>
                drag(`${paddock}.fence`, [
                  { kind: "set_fence", paddock, corners: corners.map(([x, y]) => [x, y]) },
                ])
              }
              onDone={endStep}
            />
            <ToolBar
              tool={tool}
              onTool={drawing.take}
              together={together}
              onTogether={setTogether}
              layers={layers}
              onLayers={(shown) => {
                setLayers(shown);
                setSide(shown ? "details" : "findings");
              }}
            />
            {toPin && (
              <PinDialog
                file={toPin.file}
                document={document}
                background={background}
                onLeave={() => setToPin(null)}
              />
            )}
            <DrawingTold tool={tool} told={told} tellMetres={tellMetres} />
            {drawing.asked && <DrawingDialogs document={document} drawing={drawing} />}
            {dialog}
          </Box>
          <Box
            sx={{
              borderTop: `1px solid ${ink("rule")}`,
              minHeight: 0,
              position: "relative",
            }}
          >
            <Box
              className="not-printed"
              sx={{ position: "absolute", right: 12, top: 4, zIndex: 1, display: "flex", gap: 1 }}
            >
              <Button sx={{ p: 0, minWidth: 0 }} aria-pressed={tables} onClick={() => setTables(!tables)}>
                {tables ? "Profile" : "Tables"}
              </Button>
            </Box>
            {tables ? (
              <Tables
                document={document}
                catalogue={catalogue}
                faults={faults}
                chosen={chosen}
                edit={edit}
                onSelect={select}
                onDone={endStep}
              />
            ) : between.asked && !route ? (
              <Box sx={{ p: 3, display: "flex", gap: 2 }}>
                {between.fields}
                <Button onClick={between.leave}>Back to the outlets</Button>
              </Box>
            ) : route ? (
              <Section
                onInline={moveInline}
                route={route}
                document={document}
                pipes={analysis?.pipes ?? NO_PIPES}
                ways={ways}
                cursorM={cursorM}
                more={between.fields}
                limits={analysis?.limits_kpa ?? NO_RATINGS}
                over={(x, y) => <SectionMarks {...{ findings, route, document, x, y }} />}
                onWay={(key) => {
                  if (key === BETWEEN) between.begin();
                  else {
                    between.leave();
                    select(key);
                  }
                }}
                onCursor={setCursor}
                onGround={(line, index, groundM) =>
                  drag(`${line}.point${index}`, [
                    { kind: "set_point_ground", line, index, ground_m: groundM },
                  ])
                }
                onDone={endStep}
              />
            ) : (
              <Typography sx={{ p: 4 }}>
                {lines?.length && !analysis
                  ? "The profile comes with the first answer."
                  : lines?.length
                    ? "No open line connects a tank to an outlet, so there is no profile to show."
                    : "No pipe yet. Press L or “Pipe”, click the water source, every corner, and double-click the end."}
              </Typography>
            )}
          </Box>
        </Box>
      </Main>
      {column({ title: layers ? "Background" : selected === null ? "Outlets" : "Details", content: details })}
    </>
  );
}
