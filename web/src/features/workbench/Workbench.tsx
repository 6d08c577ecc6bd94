import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useDeferredValue, useEffect, useMemo } from "react";
import { useNavigate, useParams } from "react-router";
import { useShallow } from "zustand/react/shallow";

import { fileAddress, Refused, tryRemedies } from "../../api/client";
import type { Finding, Remedy } from "../../api/types";
import { EditsContext } from "../../shared/edits";
import { troughNames } from "../../shared/names";
import { Guard } from "../../shared/Guard";
import { fetchAhead, lazyPart } from "../../shared/lazyPart";
import { patched } from "../../shared/patched";
import { usePreferences } from "../../shared/preferences";
import { saidText } from "../../shared/saidText";
import { shownRoutes } from "../../shared/route";
import { Main } from "./Main";
import { outletShown, VIEWS } from "./model";
import { Notices } from "./Notices";
import { openPlan } from "./opening";
import { Rail } from "./Rail";
import type { Details } from "./SideColumn";
import { useBench } from "./store";
import { TopBar } from "./TopBar";
import { useAnalysis } from "./useAnalysis";
import { useAutosave } from "./useAutosave";
import { useDrafts } from "./useDrafts";
import { useEdits } from "./useEdits";
import { useKeptFocus } from "../../shared/useKeptFocus";
import { useRest } from "./useRest";
import { useViewKeys } from "./useViewKeys";
import { VerdictStrip } from "./VerdictStrip";
import { useCatalogue } from "../../shared/defaults";

const OPENING = <Typography sx={{ p: 4 }}>Opening the view …</Typography>;
const Demand = lazyPart(async () => (await import("../demand")).Demand, OPENING);
const Supply = lazyPart(async () => (await import("../supply")).Supply, OPENING);
const Ground = lazyPart(async () => (await import("../ground")).Ground, OPENING);
const Day = lazyPart(async () => (await import("../day")).Day, OPENING);
const Build = lazyPart(async () => (await import("../build")).Build, OPENING);
const Log = lazyPart(async () => (await import("../log")).Log, OPENING);
const Options = lazyPart(async () => (await import("../options")).Options, OPENING);
const Parts = lazyPart(async () => (await import("../parts")).Parts, OPENING);
const CatalogueView = lazyPart(async () => (await import("../catalogue")).CatalogueView, OPENING);
const Beside = lazyPart(async () => (await import("./Beside")).Beside);
const LinesView = lazyPart(async () => (await import("./LinesView")).LinesView, OPENING);

const VIEW_OF_NUMBER: Record<string, string> = {
  days: "supply",
  spare: "supply",
  flow: "lines",
  refill: "lines",
};

const AHEAD_AFTER_MS = 1000; // the view that was asked for comes first
/** Views that show nothing without an answer of the server. */
const VIEWS_OF_ANSWER = ["demand", "supply", "ground"];
const NO_FINDINGS: Finding[] = [];

/** Try what would help against a finding of the plan as it stands. */
const tryNow = async (finding: Finding, signal: AbortSignal) => {
  const { document } = useBench.getState();
  return document ? tryRemedies(document, finding, signal) : [];
};

/** One plan: the verdict on top, the view in the middle, details and findings beside it. */
export function Workbench() {
  const { designId = "", view = "lines" } = useParams();
  const navigate = useNavigate();
  // all but the cursor, which moves with the mouse
  const bench = useBench(
    useShallow((state) => ({
      designId: state.designId,
      document: state.document,
      pending: state.pending,
      selected: state.selected,
      together: state.together,
      baseNumber: state.baseNumber,
      isSaved: state.saving.state === "saved",
      open: state.open,
      undo: state.undo,
      redo: state.redo,
      edit: state.edit,
      apply: state.apply,
      drag: state.drag,
      replace: state.replace,
      select: state.select,
      endStep: state.endStep,
    })),
  );
  const { open, undo, redo } = bench;
  const loaded = useQuery({
    queryKey: ["design", designId],
    queryFn: ({ signal }) => openPlan(designId, signal),
    gcTime: 0,
    staleTime: Infinity,
  });
  const catalogue = useCatalogue();

  useEffect(() => {
    if (loaded.data) open(loaded.data.revision, loaded.data.draft);
  }, [loaded.data, open]);
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey)) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) undo();
      else if (key === "y" || (key === "z" && event.shiftKey)) redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [undo, redo]);

  const document = bench.designId === designId ? bench.document : null;
  const title = document ? `${document.site.name} · ${document.name} · Leadsman` : "Leadsman";
  useEffect(() => {
    window.document.title = title;
    return () => void (window.document.title = "Leadsman");
  }, [title]);
  const { outlets, vessels } = document ?? {};
  const nameOf = useMemo(() => troughNames({ outlets, vessels }), [outlets, vessels]);
  const take = useCallback((remedy: Pick<Remedy, "patch" | "text_words">) => {
    const now = useBench.getState();
    if (now.document)
      now.tryOut(
        patched(now.document, remedy.patch),
        saidText(remedy.text_words, usePreferences.getState().system),
      );
  }, []);
  const judged = useAnalysis(document, bench.pending !== null, outletShown(document, bench.selected));
  const { analysis } = judged;
  const rest = useRest(document, analysis, judged.behind);
  const onTry = !judged.behind && analysis?.remedies_on_request ? tryNow : null;
  useAutosave();
  useKeptFocus();
  useViewKeys(designId);
  useDrafts();
  useEdits();
  const stands = analysis !== null;
  useEffect(() => {
    if (!stands) return;
    const begin = setTimeout(() => void fetchAhead(), AHEAD_AFTER_MS);
    return () => clearTimeout(begin);
  }, [stands]);
  const routes = useMemo(() => shownRoutes(analysis, bench.together), [analysis, bench.together]);
  const listed = useDeferredValue(rest?.findings ?? analysis?.findings ?? NO_FINDINGS);
  const { select } = bench;
  const show = useCallback(
    (key: string, where: string | null) => {
      if (where) select(where);
      void navigate(`/designs/${designId}/${VIEW_OF_NUMBER[key] ?? "lines"}`);
    },
    [select, navigate, designId],
  );

  if (loaded.isError)
    return (
      <Box sx={{ p: 6 }} role="alert">
        <Typography variant="h1">This plan cannot be shown</Typography>
        <Typography sx={{ my: 2 }}>{loaded.error.message}</Typography>
        <Button variant="outlined" onClick={() => void loaded.refetch()}>
          Try again
        </Button>{" "}
        {loaded.error instanceof Refused && loaded.error.problem.code === "unreadable" && (
          <Button href={fileAddress(designId)} download>
            Download the file
          </Button>
        )}
      </Box>
    );
  if (!document) return <Typography sx={{ p: 6 }}>Opening the plan …</Typography>;

  const edits = { apply: bench.apply, drag: bench.drag };
  const figures = { document, faults: judged.faults, edit: bench.edit, onDone: bench.endStep };
  const findings = rest?.findings ?? analysis?.findings ?? null;
  const isWide = ["options", "parts", "build", "log"].includes(view); // nothing beside them
  const own = VIEWS.find((one) => one.view === view) ?? null;
  const aboutView = (findings ?? NO_FINDINGS).filter((one) => own?.codes.includes(one.code));
  const column = (details: Details | null) =>
    (analysis ?? details) && (
      <Beside
        analysis={analysis}
        details={details}
        findings={findings}
        listed={listed}
        routes={routes}
        nameOf={nameOf}
        old={judged.old}
        complete={!judged.behind && (rest !== null || !!analysis?.remedies_on_request)}
        view={own}
        currency={document.site.currency ?? "USD"}
        onRemedy={take}
        onTry={onTry}
      />
    );

  return (
    <EditsContext value={edits}>
      <Box
        data-design={designId}
        sx={{
          height: { md: "100vh" },
          display: "grid",
          "@media print": { display: "block", height: "auto" },
          gridTemplateColumns: {
            xs: "minmax(0, 1fr)",
            md: isWide ? "96px minmax(0, 1fr)" : "96px minmax(0, 1fr) clamp(310px, 22vw, 440px)",
          },
          gridTemplateRows: { xs: "48px auto", md: "46px auto minmax(0, 1fr)" },
          gridTemplateAreas: {
            xs: '"bar" "strip" "rail" "main" "side"',
            md: isWide
              ? '"bar bar" "rail strip" "rail main"'
              : '"bar bar bar" "rail strip strip" "rail main side"',
          },
        }}
      >
        <TopBar
          site={document.site.name}
          name={document.name}
          scenarios={document.scenarios}
          shownFor={document.shown_for}
          faults={judged.faults}
        />
        <Typography variant="h1" sx={{ display: "none", displayPrint: "block", p: 2 }}>
          {document.site.name} · {document.name}
        </Typography>
        {analysis ? (
          <VerdictStrip
            verdict={rest?.verdict ?? analysis.verdict}
            behind={judged.behind}
            old={judged.old}
            onShow={show}
          />
        ) : (
          <Box sx={{ gridArea: "strip", p: 3, minHeight: 44 }}>
            {judged.trouble ? "No answer yet: the reason stands below." : "Calculating …"}
          </Box>
        )}
        <Rail designId={designId} findings={findings} />
        <Notices judged={judged} document={document} />
        <Guard of={[view, document]} within={Main}>
          {view === "parts" ? (
            <Main>
              <Parts
                {...figures}
                catalogue={<CatalogueView catalogue={catalogue.data} />}
                onShow={(id) => show("lines", id)}
                onTry={take}
              />
            </Main>
          ) : view === "options" ? (
            <Main>
              <Options
                {...figures}
                designId={designId}
                replace={bench.replace}
                onShow={(id) => show("lines", id)}
              />
            </Main>
          ) : view === "build" ? (
            <Main>
              <Build
                {...figures}
                designId={designId}
                revision={{ number: bench.baseNumber, isSaved: bench.isSaved }}
                onShow={(id) => show("lines", id)}
              />
            </Main>
          ) : view === "log" ? (
            <Main>
              <Log {...figures} designId={designId} onShow={(id) => show("lines", id)} />
            </Main>
          ) : view === "day" ? (
            <Day {...figures} routes={routes} onTry={take} />
          ) : !analysis && VIEWS_OF_ANSWER.includes(view) ? (
            <Main>
              <Typography sx={{ p: 4 }}>
                {judged.trouble
                  ? "The numbers of this view come with the first answer, and there is none yet: the reason stands with the verdict. The plan can be edited under Lines."
                  : "Calculating … The numbers of this view come with the first answer; the plan can be edited under Lines meanwhile."}
              </Typography>
            </Main>
          ) : analysis && view === "demand" ? (
            <Main>
              <Demand
                {...figures}
                analysis={analysis}
                rest={rest}
                findings={aboutView}
                catalogue={catalogue.data}
              />
            </Main>
          ) : analysis && view === "supply" ? (
            <Main>
              <Supply {...figures} analysis={analysis} rest={rest} findings={aboutView} />
            </Main>
          ) : analysis && view === "ground" ? (
            <Main>
              <Ground
                {...figures}
                analysis={analysis}
                measuring={rest?.measuring ?? null}
                replace={bench.replace}
              />
            </Main>
          ) : (
            <LinesView
              document={document}
              analysis={analysis}
              catalogue={catalogue.data}
              faults={judged.faults}
              findings={findings ?? NO_FINDINGS}
              routes={routes}
              column={column}
            />
          )}
        </Guard>
        {VIEWS_OF_ANSWER.includes(view) && <Guard of={[document, analysis]}>{column(null)}</Guard>}
      </Box>
    </EditsContext>
  );
}
