/** Talking to the server of plans, their analyses, files and pictures: calls typed by its own description. */
import { api, data, dataOrNone, design, form, revision, withTuples, type Answer } from "./call";
import type {
  Analysis,
  AskWeather,
  Design,
  DesignEdit,
  DesignHeading,
  DesignList,
  ExportKind,
  Finding,
  FittingProduct,
  FloatValveProduct,
  Glance,
  ImportAsked,
  ImportReport,
  JobAsked,
  NewSiteAsked,
  OwnProduct,
  PartProduct,
  Pin,
  PipeProduct,
  Preview,
  ProductTable,
  ProfileAnswer,
  ReaderUnits,
  Rest,
  SavedAnalysis,
  SheetAsked,
} from "./types";

export { Refused, Stale, Unreachable } from "./call";

const PAGE_LENGTH = 50;

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
/** Lay two to four plans side by side: only what differs. */
export const compareOptions = (documents: Design[], signal?: AbortSignal) =>
  data(api.POST("/api/analyses/options", { body: { documents }, signal }));
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
