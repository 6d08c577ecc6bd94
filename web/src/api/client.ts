/** Talking to the server: calls typed by its own description, and one error class for each way a call can go wrong. */
import createClient, { type BodySerializer } from "openapi-fetch";

import { reach } from "./reach";
import type { paths } from "./schema.generated";
import type {
  Analysis,
  AskWeather,
  Conflict,
  Design,
  DesignEdit,
  DesignHeading,
  DesignList,
  DosesReport,
  ExportKind,
  Finding,
  FittingProduct,
  FloatValveProduct,
  Glance,
  ImportAsked,
  ImportReport,
  JobAsked,
  LedgerAsked,
  Levels,
  LogEntry,
  Mixed,
  NewSiteAsked,
  OwnProduct,
  PartProduct,
  Pin,
  PipeProduct,
  Preview,
  Problem,
  ProductTable,
  ProfileAnswer,
  ReaderUnits,
  Rest,
  SavedAnalysis,
  SheetAsked,
  WinterAnswer,
  Symptom,
} from "./types";

export { Unreachable } from "./reach";

/** The server answered that it will not. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.message);
  }
}

/** Somebody else saved first; both versions are kept. */
export class Stale extends Error {
  constructor(readonly conflict: Conflict) {
    super(conflict.message);
  }
}

const api = createClient<paths>({ baseUrl: "/", fetch: reach });

interface Answer<Data> {
  data?: Data;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws what went wrong. */
async function data<Data>(asked: Promise<Answer<Data>>): Promise<Data> {
  const { data: found, error, response } = await asked;
  if (response.ok) return found as Data;
  if (response.status === 409) throw new Stale(error as Conflict);
  const problem =
    error && typeof error === "object"
      ? (error as Problem)
      : { code: "http", message: `Answer ${response.status}`, faults: [] };
  throw new Refused(response.status, problem);
}

/** The same of an answer with tuples in it, which the library's types turn into lists. */
const withTuples = <Data>(asked: Promise<Answer<unknown>>) => data(asked as Promise<Answer<Data>>);

async function dataOrNone<Data>(asked: Promise<Answer<Data>>): Promise<Data | null> {
  const answer = await asked;
  return answer.response.status === 404 ? null : data(Promise.resolve(answer));
}

const PAGE_LENGTH = 50;

const design = (id: string) => ({ params: { path: { design_id: id } } });
const revision = (id: string, number: number) => ({ params: { path: { design_id: id, number } } });

/** A form with a file and what its user says of it. */
const form =
  <Body>(file: File | null, key: string, told: unknown): BodySerializer<Body> =>
  () => {
    const filled = new FormData();
    filled.append(key, JSON.stringify(told));
    if (file) filled.append("file", file);
    return filled;
  };

/** A page of the plans, last saved first; the next begins after the last one of the page before. */
export const listDesigns = (
  after: DesignHeading | null,
  { length = PAGE_LENGTH, deleted = false }: { length?: number; deleted?: boolean } = {},
) =>
  withTuples<DesignList>(
    api.GET("/api/designs", {
      params: {
        query: { length, deleted, ...(after ? { saved_before: after.saved_at, after_id: after.id } : {}) },
      },
    }),
  );
/** Delete a plan, or restore it; nothing of it is lost. */
export const setDeleted = (id: string, deleted: boolean) =>
  data(api.PUT("/api/designs/{design_id}/deleted", { ...design(id), body: { deleted } }));
export const readDesign = (id: string) => data(api.GET("/api/designs/{design_id}", design(id)));
/** Where the file of a plan is, as it was saved last. */
export const fileAddress = (id: string) => `/api/designs/${id}/file`;
/** The analysis of a plan as it was saved last, with the number of that revision. */
export const analyseSaved = (id: string, signal: AbortSignal) =>
  withTuples<SavedAnalysis>(api.GET("/api/designs/{design_id}/analysis", { ...design(id), signal }));
/** Keep a design that is not checked yet, as of a file: the server refuses what is none. */
export const createDesign = (document: unknown, id?: string) =>
  data(
    api.POST("/api/designs", { body: { document: document as Design, ...(id ? { design_id: id } : {}) } }),
  );
/** Whether a save of a plan gets through though its page is closed: browsers let 64 KiB do so. */
export const keptWhileLeaving = (document: Design): boolean => JSON.stringify(document).length < 60_000;
/** A document edited from a revision; a save that is sent again has the same id. */
export interface Save {
  designId: string;
  baseNumber: number;
  document: Design;
  savedBy: string;
  saveId: string;
}
export const saveDesign = ({ designId, baseNumber, document, savedBy, saveId }: Save) =>
  data(
    api.PUT("/api/designs/{design_id}", {
      ...design(designId),
      body: { base_number: baseNumber, document, saved_by: savedBy, save_id: saveId },
      keepalive: keptWhileLeaving(document),
    }),
  );
/** Make edits in a design, one after the other; nothing is kept. */
export const editDesign = (document: Design, edits: DesignEdit[]) =>
  data(api.POST("/api/edits", { body: { document, edits } }));
export const newSite = async (
  site: string,
  start: NewSiteAsked["start"],
  name: string,
  groundM: number,
  firstLine: NewSiteAsked["first_line"] = null,
) =>
  (
    await data(
      api.POST("/api/edits/new", { body: { site, start, name, ground_m: groundM, first_line: firstLine } }),
    )
  ).document;
/** With a signal that is given, the server stops working on it. */
export const analyse = (document: Design, signal?: AbortSignal) =>
  withTuples<Analysis>(api.POST("/api/analyses", { body: { document }, signal }));
/** Ask for what is shown while a plan changes, with a body that is written already. */
export const preview = (body: string, signal: AbortSignal) =>
  withTuples<Preview>(
    api.POST("/api/analyses/preview", {
      body: body as never,
      bodySerializer: (written) => written as unknown as string,
      signal,
    }),
  );
export const askCourse = (document: Design, start: string, end: string, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/course", { body: { document, start, end }, signal }));
export const analyseAtRest = (document: Design, signal?: AbortSignal) =>
  withTuples<Rest>(api.POST("/api/analyses/rest", { body: { document }, signal }));
export const tryRemedies = async (document: Design, { code, where }: Finding, signal?: AbortSignal) =>
  (await data(api.POST("/api/analyses/remedies", { body: { document, code, where }, signal }))).remedies;
export const comparePipes = (document: Design, line: string, own: PipeProduct[], signal?: AbortSignal) =>
  data(api.POST("/api/analyses/pipes", { body: { document, line, own }, signal }));
export const compareValves = (
  document: Design,
  outlet: string,
  own: FloatValveProduct[],
  signal?: AbortSignal,
) => data(api.POST("/api/analyses/valves", { body: { document, outlet, own }, signal }));
export const fitInLine = (
  document: Design,
  line: string,
  product: { fitting: FittingProduct } | { part: PartProduct },
) => data(api.POST("/api/analyses/fitted", { body: { document, line, ...product } }));
/** What a plan needs: rows to buy, joints, rolls and laying sheets. */
export const listParts = (document: Design, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/parts", { body: { document }, signal }));
/** Set out the floats of a plan: figures, and a section of each vessel drawn in the reader's units. */
export const setOutFloats = (document: Design, units: ReaderUnits, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/parts/settings", { body: { document, units }, signal }));
/** Every line rolled out straight, drawn in the reader's units. */
export const drawLaying = (document: Design, units: ReaderUnits, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/parts/laying", { body: { document, units }, signal }));
/** Parts and ways of doing it side by side; at the tightest outlet where none is said. */
export const compareParts = (
  document: Design,
  outlet: string | null,
  bucket_l: number,
  signal?: AbortSignal,
) => data(api.POST("/api/analyses/parts/comparisons", { body: { document, outlet, bucket_l }, signal }));
/** First water step by step. */
export const planFirstWater = (document: Design, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/first-water", { body: { document }, signal }));
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
export const compareSchools = (document: Design, outlet: string, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/schools", { body: { document, outlet }, signal }));
export const runSeason = (document: Design, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/season", { body: { document }, signal }));
/** Run a design over time from midnight on, with its events or without. */
export const runDay = (document: Design, hours: number, events: boolean, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/day", { body: { document, hours, events }, signal }));
/** Hand a long run to the workers, of a plan or of none. */
export const askJob = (asked: JobAsked, designId: string | null, signal?: AbortSignal) =>
  data(api.POST("/api/jobs", { body: { asked, design_id: designId }, signal }));
export const readJob = (job_id: string, signal?: AbortSignal) =>
  data(api.GET("/api/jobs/{job_id}", { params: { path: { job_id } }, signal }));
export const cancelJob = (job_id: string) =>
  data(api.DELETE("/api/jobs/{job_id}", { params: { path: { job_id } } }));
export const compareYears = (document: Design, other: Design, signal?: AbortSignal) =>
  data(api.POST("/api/analyses/years", { body: { document, other }, signal }));
export const askWeather = async (asked: AskWeather) =>
  (await data(api.POST("/api/weather", { body: asked }))).weather;
export const readWeatherTable = async (text: string, name: string) =>
  (await data(api.POST("/api/weather/table", { body: { text, name } }))).weather;
/** Show what a file of surveyed things would make of a design. */
export const previewImport = (file: File, asked: ImportAsked) =>
  withTuples<ImportReport>(
    api.POST("/api/ground/imports", { body: null as never, bodySerializer: form(file, "asked", asked) }),
  );
export const askProfile = (document: Design, line: string) =>
  withTuples<ProfileAnswer>(api.POST("/api/ground/profiles", { body: { document, line } }));
/** A file that the server writes, and its name. */
const fileOf = async (asked: Promise<Answer<unknown>>, otherwise: string) => {
  const blob = (await data(asked)) as Blob;
  const { response } = await asked;
  const name = /filename="(.+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1] ?? otherwise;
  return { blob, name };
};
/** A design in an open format. */
export const exportDesign = (document: Design, kind: ExportKind) =>
  fileOf(api.POST("/api/ground/exports", { body: { document, kind }, parseAs: "blob" }), kind);
/** What a plan needs as a workbook for a spreadsheet. */
export const partsWorkbook = (document: Design, units: ReaderUnits) =>
  fileOf(
    api.POST("/api/analyses/parts/workbook", { body: { document, units }, parseAs: "blob" }),
    "parts.xlsx",
  );
/** Everything of a plan that is taken outside, as one PDF. */
export const jobSheet = (asked: SheetAsked) =>
  fileOf(api.POST("/api/analyses/parts/sheet", { body: asked, parseAs: "blob" }), "job-sheet.pdf");
export const readRelief = (id: string) => dataOrNone(api.GET("/api/designs/{design_id}/relief", design(id)));
export const putRelief = (id: string, file: File, document: Design, system: string | null) =>
  data(
    api.PUT("/api/designs/{design_id}/relief", {
      ...design(id),
      body: null as never,
      bodySerializer: form(file, "asked", { document, name: file.name, system }),
    }),
  );
export const askRelief = (id: string, document: Design) =>
  data(api.POST("/api/designs/{design_id}/relief/service", { ...design(id), body: { document } }));
export const dropRelief = (id: string) => data(api.DELETE("/api/designs/{design_id}/relief", design(id)));
export const readPicture = (id: string) =>
  dataOrNone(api.GET("/api/designs/{design_id}/picture", design(id)));
export const pictureAddress = (id: string) => `/api/designs/${id}/picture/image`;
export const putPicture = (id: string, file: File, pins: Pin[]) =>
  data(
    api.PUT("/api/designs/{design_id}/picture", {
      ...design(id),
      body: null as never,
      bodySerializer: form(file, "pinned", { pins }),
    }),
  );
export const movePins = (id: string, pins: Pin[]) =>
  data(api.PUT("/api/designs/{design_id}/picture/pins", { ...design(id), body: { pins } }));
export const dropPicture = (id: string) => data(api.DELETE("/api/designs/{design_id}/picture", design(id)));
export interface ReachAsked {
  vessel: string;
  product: string;
  flow_lpm: number;
  needs_m: number;
}
export const askReach = (id: string, document: Design, asked: ReachAsked, signal?: AbortSignal) =>
  data(api.POST("/api/designs/{design_id}/reach", { ...design(id), body: { document, ...asked }, signal }));
export const askGround = async (id: string, spots: readonly (readonly [number, number])[]) => {
  const body = { spots: spots.map(([east, north]): [number, number] => [east, north]) };
  return (await data(api.POST("/api/designs/{design_id}/relief/ground", { ...design(id), body }))).ground_m;
};
export const listRevisions = async (id: string) =>
  (await data(api.GET("/api/designs/{design_id}/revisions", design(id)))).revisions;
export const glanceAt = (id: string, number: number, signal?: AbortSignal) =>
  withTuples<Glance>(
    api.GET("/api/designs/{design_id}/revisions/{number}/glance", { ...revision(id, number), signal }),
  );
export const readRevision = (id: string, number: number) =>
  data(api.GET("/api/designs/{design_id}/revisions/{number}", revision(id, number)));
export const nameRevision = (id: string, number: number, label: string) =>
  data(
    api.PUT("/api/designs/{design_id}/revisions/{number}/label", {
      ...revision(id, number),
      body: { label },
    }),
  );
/** Where everything is had as one file. */
export const archiveAddress = "/api/archive";
/** Put back what such a file holds; nothing that is here is written over. */
export const readArchive = (file: File) =>
  data(
    api.POST("/api/archive", {
      body: null as never,
      bodySerializer: () => {
        const filled = new FormData();
        filled.append("file", file);
        return filled;
      },
    }),
  );
const tableOf = (table: ProductTable) => ({ params: { path: { table } } });
export const putProduct = (table: ProductTable, product: OwnProduct) =>
  data(api.PUT("/api/catalogue/{table}", { ...tableOf(table), body: { product } }));
export const addProducts = async (table: ProductTable, csv: string) =>
  (await data(api.POST("/api/catalogue/{table}", { ...tableOf(table), body: { csv } }))).product_ids;
export const dropProduct = (table: ProductTable, id: string) =>
  data(api.DELETE("/api/catalogue/{table}/{product_id}", { params: { path: { table, product_id: id } } }));
export const tableAddress = (table: ProductTable) => `/api/catalogue/${table}.csv`;
export const readCatalogue = () => data(api.GET("/api/catalogue"));
