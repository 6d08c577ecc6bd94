/** What is asked of the real line and its seasons: the log and what it says, doses, rows of pots, ponds, winter. */
import { api, data, withTuples } from "./call";
import type {
  Design,
  DosesReport,
  LedgerAsked,
  Levels,
  LogEntry,
  Mixed,
  RowSeasons,
  Symptom,
  WinterAnswer,
} from "./types";

/** Each dose for the water that is there, how to mix it, how strong it stays. */
export const tellDoses = (document: Design, signal?: AbortSignal) =>
  withTuples<DosesReport>(api.POST("/api/analyses/doses", { body: { document }, signal }));
/** What brings the water of a recipe's vessel from one strength to another. */
export const tellMixed = (
  body: { document: Design; dosing: string; now: number; wanted: number },
  signal?: AbortSignal,
) => withTuples<Mixed>(api.POST("/api/analyses/mixed", { body, signal }));
/** What the plan's frost does, and how its lines are drained and started. */
export const askWinter = (document: Design, today: string, signal?: AbortSignal) =>
  withTuples<WinterAnswer>(api.POST("/api/analyses/winter", { body: { document, today }, signal }));
/** What plants in rows take over the season, and which of their containers lags. */
export const tellRows = (document: Design, signal?: AbortSignal) =>
  withTuples<RowSeasons>(api.POST("/api/analyses/rows", { body: { document }, signal }));
/** Levels of ponds with their pump on and off, where the float may go, changes, top-up. */
export const tellPonds = (document: Design, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/ponds", { body: { document }, signal }));
/** What standby containers are good for. */
export const tellStandbys = (document: Design, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/standbys", { body: { document }, signal }));
/** Send entries of the log that waited here; each is kept or refused by itself. */
export const sendLog = (design_id: string, entries: LogEntry[]) =>
  data(
    api.POST("/api/designs/{design_id}/log", {
      params: { path: { design_id } },
      body: { entries },
    }),
  );
export const readLog = (design_id: string, part: string | null, signal?: AbortSignal) =>
  data(
    api.GET("/api/designs/{design_id}/log", {
      params: { path: { design_id }, query: { part, length: 500 } },
      signal,
    }),
  );
export const readLooks = (design_id: string, signal?: AbortSignal) =>
  data(api.GET("/api/designs/{design_id}/looks", { params: { path: { design_id } }, signal }));
/** Hold a plan against what its log says was measured. */
export const calibrate = (design_id: string, document: Design, signal?: AbortSignal) =>
  data(
    api.POST("/api/designs/{design_id}/calibration", {
      params: { path: { design_id } },
      body: { document },
      signal,
    }),
  );
/** Tell what is behind trouble, after some answers, and what to look at next. */
export const findTrouble = (
  design_id: string,
  body: { document: Design; symptom: Symptom; part: string; answers: Record<string, string> },
  signal?: AbortSignal,
) => data(api.POST("/api/designs/{design_id}/trouble", { params: { path: { design_id } }, body, signal }));
/** What is to be done on a line, and the next moves. */
export const planUpkeep = (design_id: string, document: Design, today: string, signal?: AbortSignal) =>
  data(
    api.POST("/api/designs/{design_id}/upkeep", {
      params: { path: { design_id } },
      body: { document, today },
      signal,
    }),
  );
export const makeFeed = (design_id: string) =>
  data(api.POST("/api/designs/{design_id}/feed", { params: { path: { design_id } } }));
export const readLedger = (design_id: string, body: LedgerAsked, signal?: AbortSignal) =>
  data(api.POST("/api/designs/{design_id}/ledger", { params: { path: { design_id } }, body, signal }));
/** The levels of a tank, by sensor and stick, with what the plan expects and what that says. */
export const readLevels = (
  design_id: string,
  { document, vessel }: { document: Design; vessel: string },
  signal?: AbortSignal,
) =>
  withTuples<Levels>(
    api.POST("/api/designs/{design_id}/levels", {
      params: { path: { design_id } },
      body: { document, vessel, days: 4, utc_offset_min: -new Date().getTimezoneOffset() },
      signal,
    }),
  );
/** The levels that the plan expects of a vessel in the day from a midnight on. */
export const expectLevels = (
  design_id: string,
  body: { document: Design; vessel: string; midnight: string; level_m: number },
  signal?: AbortSignal,
) =>
  withTuples<{ expected: Levels["readings"] }>(
    api.POST("/api/designs/{design_id}/levels/expected", { params: { path: { design_id } }, body, signal }),
  );
/** The plans in the order of a round: those whose water lasts shortest first. */
export const readRound = (signal?: AbortSignal) => data(api.GET("/api/designs/round", { signal }));
/** Send the photo of an entry that the server has; `keepPlace` is whether the place it was taken at is kept beside it. */
export const putPhoto = (design_id: string, entry_id: string, file: Blob, keepPlace: boolean) =>
  data(
    api.PUT("/api/designs/{design_id}/log/{entry_id}/photo", {
      params: { path: { design_id, entry_id } },
      body: null as never,
      bodySerializer: () => {
        const filled = new FormData();
        filled.append("file", file, "photo");
        filled.append("keep_place", String(keepPlace));
        return filled;
      },
    }),
  );
export const photoAddress = (design_id: string, entry_id: string, size: "large" | "small") =>
  `/api/designs/${design_id}/log/${entry_id}/photo${size === "small" ? "?small=true" : ""}`;
export const logTableAddress = (design_id: string) => `/api/designs/${design_id}/log.csv`;
