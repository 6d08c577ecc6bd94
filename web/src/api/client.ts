/** Talking to the server: typed calls, and one error class for each way that a call can go wrong. */
import type {
  Analysis,
  Catalogue,
  Fitted,
  FittingProduct,
  FloatValveProduct,
  PartProduct,
  OwnProduct,
  PipeChoices,
  PipeProduct,
  ProductTable,
  ValveChoices,
  Conflict,
  Course,
  Design,
  DesignHeading,
  Finding,
  Glance,
  Glimpse,
  ImportAsked,
  Picture,
  Pin,
  Reach,
  Relief,
  Remedy,
  RevisionHeading,
  ImportReport,
  Problem,
  ProfileAnswer,
  Rest,
  Revision,
  Schools,
  AskWeather,
  SeasonAnswer,
  WeatherData,
  Yearly,
} from "./types";
import type { Change } from "../shared/change";

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

/** No answer came: the server or the way to it is down. */
export class Unreachable extends Error {}

async function reach(path: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(path, init);
  } catch (error) {
    if (init.signal?.aborted) throw error; // we let it go ourselves
    throw new Unreachable("Leadsman's server does not answer.");
  }
}

async function call(path: string, init?: RequestInit): Promise<unknown> {
  const response = await reach(path, { headers: { "Content-Type": "application/json" }, ...init });
  return answerOf(response);
}

async function answerOf(response: Response): Promise<unknown> {
  const body: unknown = await response.json().catch(() => null);
  if (response.ok) return body;
  if (response.status === 409) throw new Stale(body as Conflict);
  const problem = body as Problem | null;
  throw new Refused(
    response.status,
    problem ?? { code: "http", message: `Answer ${response.status}`, faults: [] },
  );
}

const send = (method: "POST" | "PUT" | "PATCH", body: unknown): RequestInit => ({
  method,
  body: JSON.stringify(body),
});

export const listDesigns = async () => ((await call("/api/designs")) as { designs: DesignHeading[] }).designs;
export const readDesign = async (id: string) => (await call(`/api/designs/${id}`)) as Revision;
export const createDesign = async (document: unknown) =>
  (await call("/api/designs", send("POST", { document }))) as Revision;
export const saveDesign = async (id: string, baseNumber: number, document: Design, savedBy: string) =>
  (await call(
    `/api/designs/${id}`,
    send("PUT", { base_number: baseNumber, document, saved_by: savedBy }),
  )) as {
    number: number;
  };
/** With a signal that is given, the server stops working on it. */
export const analyse = async (document: Design, signal?: AbortSignal) =>
  (await call("/api/analyses", { ...send("POST", { document }), signal })) as Analysis;
/** Look at a document in passing; the server holds it under that name, as step 0. */
export const glimpse = async (held: string, document: Design, outlet: string | null) =>
  (await call(`/api/analyses/glimpses/${held}`, send("PUT", { document, outlet }))) as Glimpse;
/** The same of what is held, with its next change; null where the server does not hold it any more. */
export const glimpseAgain = async (
  held: string,
  step: number,
  change: Change,
  outlet: string | null,
): Promise<Glimpse | null> => {
  try {
    return (await call(`/api/analyses/glimpses/${held}`, send("PATCH", { step, change, outlet }))) as Glimpse;
  } catch (error) {
    if (error instanceof Refused && error.status === 404) return null;
    throw error;
  }
};
export const askCourse = async (document: Design, start: string, end: string) =>
  (await call("/api/analyses/course", send("POST", { document, start, end }))) as Course;
export const analyseAtRest = async (document: Design, signal?: AbortSignal) =>
  (await call("/api/analyses/rest", { ...send("POST", { document }), signal })) as Rest;
export const tryRemedies = async (document: Design, { code, where }: Finding, signal?: AbortSignal) =>
  (
    (await call("/api/analyses/remedies", { ...send("POST", { document, code, where }), signal })) as {
      remedies: Remedy[];
    }
  ).remedies;
export const comparePipes = async (
  document: Design,
  line: string,
  own: PipeProduct[],
  signal?: AbortSignal,
) => (await call("/api/analyses/pipes", { ...send("POST", { document, line, own }), signal })) as PipeChoices;
export const compareValves = async (
  document: Design,
  outlet: string,
  own: FloatValveProduct[],
  signal?: AbortSignal,
) =>
  (await call("/api/analyses/valves", {
    ...send("POST", { document, outlet, own }),
    signal,
  })) as ValveChoices;
export const fitInLine = async (
  document: Design,
  line: string,
  product: { fitting: FittingProduct } | { part: PartProduct },
) => (await call("/api/analyses/fitted", send("POST", { document, line, ...product }))) as Fitted;
export const compareSchools = async (document: Design, outlet: string) =>
  (await call("/api/analyses/schools", send("POST", { document, outlet }))) as Schools;
export const runSeason = async (document: Design) =>
  (await call("/api/analyses/season", send("POST", { document }))) as SeasonAnswer;
export const compareYears = async (document: Design, other: Design) =>
  (await call("/api/analyses/years", send("POST", { document, other }))) as { own: Yearly; other: Yearly };
export const askWeather = async (asked: AskWeather) =>
  ((await call("/api/weather", send("POST", asked))) as { weather: WeatherData }).weather;
export const readWeatherTable = async (text: string, name: string) =>
  ((await call("/api/weather/table", send("POST", { text, name }))) as { weather: WeatherData }).weather;
/** Show what a file of surveyed things would make of a design. */
export const previewImport = async (file: File, asked: ImportAsked) => {
  const form = new FormData();
  form.append("asked", JSON.stringify(asked));
  form.append("file", file);
  return (await answerOf(await reach("/api/ground/imports", { method: "POST", body: form }))) as ImportReport;
};
export const askProfile = async (document: Design, line: string) =>
  (await call("/api/ground/profiles", send("POST", { document, line }))) as ProfileAnswer;
/** A design in an open format, as the file's text and its name. */
export const exportDesign = async (document: Design, kind: string) => {
  const init = send("POST", { document, kind });
  const response = await reach("/api/ground/exports", {
    ...init,
    headers: { "Content-Type": "application/json" },
  });
  if (!response.ok) await answerOf(response);
  const name = /filename="(.+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1] ?? kind;
  return { blob: await response.blob(), name };
};
const orNone = async <T>(asked: Promise<unknown>): Promise<T | null> =>
  asked.then(
    (found) => found as T,
    (error: unknown) => {
      if (error instanceof Refused && error.status === 404) return null;
      throw error;
    },
  );
const upload = async (path: string, file: File, key: string, told: unknown) => {
  const form = new FormData();
  form.append(key, JSON.stringify(told));
  form.append("file", file);
  return answerOf(await reach(path, { method: "PUT", body: form }));
};
export const readRelief = (id: string) => orNone<Relief>(call(`/api/designs/${id}/relief`));
export const putRelief = async (id: string, file: File, document: Design, system: string | null) =>
  (await upload(`/api/designs/${id}/relief`, file, "asked", { document, name: file.name, system })) as Relief;
export const askRelief = async (id: string, document: Design) =>
  (await call(`/api/designs/${id}/relief/service`, send("POST", { document }))) as Relief;
export const dropRelief = async (id: string) => call(`/api/designs/${id}/relief`, { method: "DELETE" });
export const readPicture = (id: string) => orNone<Picture>(call(`/api/designs/${id}/picture`));
export const pictureAddress = (id: string) => `/api/designs/${id}/picture/image`;
export const putPicture = async (id: string, file: File, pins: Pin[]) =>
  (await upload(`/api/designs/${id}/picture`, file, "pinned", { pins })) as Picture;
export const movePins = async (id: string, pins: Pin[]) =>
  (await call(`/api/designs/${id}/picture/pins`, send("PUT", { pins }))) as Picture;
export const dropPicture = async (id: string) => call(`/api/designs/${id}/picture`, { method: "DELETE" });
export interface ReachAsked {
  vessel: string;
  product: string;
  flow_lpm: number;
  needs_m: number;
}
export const askReach = async (id: string, document: Design, asked: ReachAsked) =>
  (await call(`/api/designs/${id}/reach`, send("POST", { document, ...asked }))) as Reach;
export const listRevisions = async (id: string) =>
  ((await call(`/api/designs/${id}/revisions`)) as { revisions: RevisionHeading[] }).revisions;
export const glanceAt = async (id: string, number: number) =>
  (await call(`/api/designs/${id}/revisions/${number}/glance`)) as Glance;
export const readRevision = async (id: string, number: number) =>
  (await call(`/api/designs/${id}/revisions/${number}`)) as Revision;
export const nameRevision = async (id: string, number: number, label: string) =>
  call(`/api/designs/${id}/revisions/${number}/label`, send("PUT", { label }));
export const putProduct = async (table: ProductTable, product: OwnProduct) =>
  call(`/api/catalogue/${table}`, send("PUT", { product }));
export const addProducts = async (table: ProductTable, csv: string) =>
  ((await call(`/api/catalogue/${table}`, send("POST", { csv }))) as { product_ids: string[] }).product_ids;
export const dropProduct = async (table: ProductTable, id: string) =>
  call(`/api/catalogue/${table}/${id}`, { method: "DELETE" });
export const tableAddress = (table: ProductTable) => `/api/catalogue/${table}.csv`;
export const readCatalogue = async () => (await call("/api/catalogue")) as Catalogue;
