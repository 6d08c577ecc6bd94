import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Typography from "@mui/material/Typography";
import { useCallback, useMemo, useRef, useState, type DragEvent } from "react";

import type { DayEvent, Design, Fault, Remedy } from "../../api/types";
import { ink } from "../../app/theme";
import { BareChoice } from "../../shared/BareChoice";
import { csvText } from "../../shared/csv";
import { bare } from "../../shared/csvUnits";
import { download } from "../../shared/download";
import { HEARD } from "../../shared/heard";
import { useLookEveryH } from "../../shared/defaults";
import { deleted, useEdits } from "../../shared/edits";
import { saveStacked } from "../../shared/picture";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import type { ShownRoute } from "../../shared/route";
import { figure, shownDigits, shownUnit, toShown } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { DayPlan } from "./DayPlan";
import { DayProfile } from "./DayProfile";
import { EventAxis } from "./EventAxis";
import { Failures } from "./Failures";
import { EventDialog } from "./EventDialog";
import { clockText, DAY_S, endOf, happeningFrom, HOUR_S, KINDS, stripsOf, tableRows, toldAt } from "./model";
import { Story } from "./Story";
import { Strips, type Axis } from "./Strips";
import { DIRECT_HOURS, useDayRun } from "./useDayRun";
import { useOtherPlans } from "./useOtherPlans";
import { usePlay } from "./usePlay";

interface Props {
  document: Design;
  routes: ShownRoute[];
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  /** try a change of the plan, as a fix is tried */
  onTry: (measure: Pick<Remedy, "patch" | "text_words">) => void;
}

const LENGTHS = [
  { value: "6", text: "6 hours" },
  { value: "24", text: "1 day" },
  { value: "48", text: "2 days" },
  { value: "72", text: "3 days" },
  { value: "168", text: "7 days" },
  { value: "720", text: "30 days" },
  { value: "2160", text: "90 days" },
];
const [NAMES, RIGHT] = [146, 14];
const WITHOUT = "without";
const DRAGGED = "application/x-day-event";
const LOOKS_H = [12, 24, 48, 72, 168, 336];

/** How often somebody looks, as a list: the usual intervals, and the plan's own. */
function looksFor(ownH: number | null) {
  const all = ownH === null || LOOKS_H.includes(ownH) ? LOOKS_H : [...LOOKS_H, ownH].sort((a, b) => a - b);
  return all.map((hours) => ({
    value: String(hours),
    text: hours < 48 ? `Look every ${hours} h` : `Look every ${Number((hours / 24).toFixed(1))} days`,
  }));
}

/** The system over time: strips on one axis, a play head that drives plan and profile, events that are dragged. */
export function Day({ document, routes, faults, edit, onDone, onTry }: Props) {
  const system = usePreferences((state) => state.system);
  const { apply } = useEdits();
  const [hours, setHours] = useState("24");
  const [atS, setAt] = useState(6 * HOUR_S);
  const [compared, setCompared] = useState("");
  const [adding, setAdding] = useState<HTMLElement | null>(null);
  const [opened, setOpened] = useState<string | null>(null);
  const [route, setRoute] = useState<string | null>(null);
  const [box, size] = useSize<HTMLDivElement>();
  const main = useRef<HTMLElement>(null);
  const [exporting, setExporting] = useState<HTMLElement | null>(null);
  const lengthS = Number(hours) * HOUR_S;
  const lookEveryH = useLookEveryH(document);
  const events = document.events ?? [];
  const told = useDayRun(document, Number(hours), true);
  const { run, old, error, progress } = told;
  const plans = useOtherPlans(compared);
  const against = useDayRun(
    plans.document ?? document,
    Number(hours),
    compared !== WITHOUT,
    compared === WITHOUT ? events.length > 0 : plans.document !== null,
  );
  const other = useMemo(() => run && against.run && toldAt(against.run, run.times_s), [run, against.run]);
  const strips = useMemo(() => (run ? stripsOf(document, run, other) : []), [document, run, other]);
  const axis = useMemo<Axis>(
    () => ({ lengthS, left: NAMES, wide: Math.max(1, size.width - NAMES - RIGHT) }),
    [lengthS, size.width],
  );
  const at = Math.min(atS, lengthS);
  const goTo = useCallback((timeS: number) => setAt(timeS), []);
  const play = usePlay(lengthS, at, goTo);
  const moved = (timeS: number | null) => {
    play.stop();
    if (timeS !== null) setAt(timeS);
  };
  const times = useMemo(() => (run?.happenings ?? []).map((one) => one.time_s), [run]);
  const change = (id: string) => (recipe: (draft: DayEvent) => void) =>
    edit(`event.${id}`, (draft) => {
      const own = draft.events?.find((one) => one.id === id);
      if (own) recipe(own);
    });
  const add = (kind: DayEvent["kind"], timeS = at) => {
    setAdding(null);
    apply("event.new", [{ kind: "add_event", event: kind, at_s: Math.round(timeS / 60) * 60 }], {
      then: ([id]) => setOpened(id ?? null),
    });
    onDone();
  };
  const taking = {
    onDragOver: (drag: DragEvent) => {
      if (drag.dataTransfer.types.includes(DRAGGED)) drag.preventDefault();
    },
    onDrop: (drag: DragEvent) => {
      const kind = drag.dataTransfer.getData(DRAGGED);
      if (!kind) return;
      drag.preventDefault();
      const left = drag.currentTarget.getBoundingClientRect().left + axis.left;
      add(kind as DayEvent["kind"], Math.min(Math.max((drag.clientX - left) / axis.wide, 0), 1) * lengthS);
    },
  };
  const own = events.find((event) => event.id === opened);
  const shaded = events.map((event) => ({
    id: event.id,
    fromS: Math.min(event.at_s, lengthS),
    toS: endOf(event, run?.looks_s ?? [], lengthS),
  }));
  const title = `${document.site.name} ${document.name} day`;
  const heads = strips.map((strip) => `${strip.title} [${shownUnit(strip.unit, system)}]`);
  const leave = (save: () => void) => {
    setExporting(null);
    save();
  };
  const saveTable = () =>
    download(
      csvText([
        ["time", ...heads],
        ...tableRows(strips, run?.times_s ?? [], (value, unit) => bare(value, unit, system)),
      ]),
      "text/csv",
      title,
      "csv",
    );
  const savePictures = (kind: "svg" | "png") => {
    if (main.current)
      void saveStacked([...main.current.querySelectorAll<SVGSVGElement>("[data-stacked] svg")], kind, title);
  };
  return (
    <>
      <Box
        component="main"
        ref={main}
        sx={{
          gridArea: "main",
          minHeight: 0,
          minWidth: 0,
          display: "grid",
          gridTemplateRows: { xs: "auto auto auto auto", md: "auto minmax(0, 1fr) auto 176px" },
        }}
      >
        <Typography variant="h1" sx={HEARD}>
          The day over time
        </Typography>
        <Box
          sx={{ display: "flex", flexWrap: "wrap", gap: 2, p: 2, alignItems: "center" }}
          className="not-printed"
        >
          <Button variant="contained" onClick={play.toggle} disabled={!run}>
            {play.playing ? "Pause" : "Play"}
          </Button>
          <Button
            variant="outlined"
            onClick={() => moved(happeningFrom(times, at, -1))}
            aria-label="Event before"
          >
            ◂ Event
          </Button>
          <Button
            variant="outlined"
            onClick={() => moved(happeningFrom(times, at, 1))}
            aria-label="Next event"
          >
            Event ▸
          </Button>
          <Button variant="outlined" onClick={(event) => setAdding(event.currentTarget)}>
            + Add event
          </Button>
          <Box component="span" sx={{ fontVariantNumeric: "tabular-nums", minWidth: 90 }} role="status">
            {progress !== null
              ? `Calculating … ${Math.round(100 * progress)} %`
              : old
                ? "Calculating …"
                : clockText(at, lengthS > DAY_S)}
          </Box>
          {progress !== null && (
            <Button variant="outlined" onClick={told.cancel}>
              Cancel
            </Button>
          )}
          {old && progress === null && Number(hours) > DIRECT_HOURS && (
            <Button variant="outlined" onClick={told.again}>
              Run
            </Button>
          )}
          <Box sx={{ flex: 1 }} />
          <BareChoice name="Length of the run" value={hours} options={LENGTHS} onChange={setHours} />
          <BareChoice
            name="Compare with"
            value={compared}
            options={[
              { value: "", text: "Compare: nothing" },
              { value: WITHOUT, text: "Compare: no event" },
              ...plans.options,
            ]}
            onChange={setCompared}
          />
          <Button variant="outlined" disabled={!run} onClick={(event) => setExporting(event.currentTarget)}>
            Export
          </Button>
        </Box>
        <Box
          ref={box}
          {...taking}
          sx={{
            overflowY: "auto",
            overflowX: "hidden",
            minHeight: { xs: 320, md: 0 },
            opacity: old ? 0.5 : 1,
          }}
        >
          {error && (
            <Typography role="alert" sx={{ p: 4 }}>
              {error.message}
            </Typography>
          )}
          {!run && !error && <Typography sx={{ p: 4 }}>Calculating the day …</Typography>}
          {run && size.width > 0 && (
            <Box data-stacked>
              <Strips
                strips={strips}
                timesS={run.times_s}
                axis={axis}
                width={size.width}
                shaded={shaded}
                atS={at}
                onAt={(timeS) => moved(timeS)}
              />
            </Box>
          )}
          {run && (
            <Box sx={{ px: 2, pb: 2 }}>
              <PictureTable
                title="The run"
                head={["Time", ...heads]}
                rows={tableRows(strips, run.times_s, (value, unit) => toShown(value, unit, system)).map(
                  ([time = "", ...values]) => [
                    time,
                    ...values.map((value, index) =>
                      figure(Number(value), shownDigits(strips[index]?.unit ?? "m", system)),
                    ),
                  ],
                )}
              />
            </Box>
          )}
        </Box>
        <Box
          data-stacked
          {...taking}
          sx={{
            borderTop: `1px solid ${ink("rule")}`,
            minWidth: 0,
            overflow: "hidden",
            position: "relative",
          }}
        >
          <Box sx={{ position: "absolute", left: 4, bottom: 8, fontSize: 12 }} className="not-printed">
            <BareChoice
              name="Time between looks"
              value={String(lookEveryH ?? "")}
              options={looksFor(lookEveryH)}
              onChange={(value) => {
                edit("site.look", (draft) => void (draft.site.look_every_h = Number(value)));
                onDone();
              }}
            />
          </Box>
          {size.width > 0 && (
            <EventAxis
              document={document}
              axis={axis}
              width={size.width}
              looksS={run?.looks_s ?? []}
              onMove={(event, timeS) =>
                change(event.id)((draft) => {
                  if (draft.until_s != null)
                    draft.until_s = Math.max(draft.until_s + timeS - draft.at_s, timeS + 60);
                  draft.at_s = timeS;
                })
              }
              onDone={onDone}
              onOpen={(event) => setOpened(event.id)}
            />
          )}
        </Box>
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" },
            gridAutoRows: { xs: 190, md: "100%" },
            gap: 2,
            p: 2,
            pt: 0,
            minWidth: 0,
          }}
        >
          {run && <DayPlan document={document} run={run} atS={at} />}
          {run && (
            <DayProfile
              document={document}
              routes={routes}
              run={run}
              route={route}
              onRoute={setRoute}
              atS={at}
            />
          )}
        </Box>
        <Menu anchorEl={exporting} open={exporting !== null} onClose={() => setExporting(null)}>
          <MenuItem dense onClick={() => leave(saveTable)}>
            Table (CSV)
          </MenuItem>
          <MenuItem dense onClick={() => leave(() => savePictures("png"))}>
            Picture (PNG)
          </MenuItem>
          <MenuItem dense onClick={() => leave(() => savePictures("svg"))}>
            Picture (SVG)
          </MenuItem>
        </Menu>
        <Menu keepMounted anchorEl={adding} open={adding !== null} onClose={() => setAdding(null)}>
          {Object.entries(KINDS).map(([kind, text]) => (
            <MenuItem
              key={kind}
              dense
              draggable
              title="drag it to its time, or click: it happens at the play head"
              onClick={() => add(kind as DayEvent["kind"])}
              onDragStart={(drag) => {
                drag.dataTransfer.setData(DRAGGED, kind);
                drag.dataTransfer.effectAllowed = "copy";
                setTimeout(() => setAdding(null)); // the list is out of the way, and stays until it is dropped
              }}
            >
              {text}
            </MenuItem>
          ))}
        </Menu>
        {own && (
          <EventDialog
            document={document}
            event={own}
            lengthS={lengthS}
            faults={faults}
            change={change(own.id)}
            onDone={onDone}
            onDelete={() => {
              setOpened(null);
              apply("event.deleted", deleted(own.id));
              onDone();
            }}
            onClose={() => setOpened(null)}
          />
        )}
      </Box>
      <Box
        component="aside"
        aria-label="What happens"
        sx={{ gridArea: "side", borderLeft: `1px solid ${ink("rule")}`, bgcolor: ink("paper"), minHeight: 0 }}
      >
        {run && (
          <Story document={document} run={run} lengthS={lengthS} atS={at} onAt={moved}>
            <Failures document={document} run={run} onTry={onTry} />
          </Story>
        )}
      </Box>
    </>
  );
}
