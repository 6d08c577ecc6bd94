/** How the server is called: typed by its own description, and one error class for each way a call can go wrong. */
import createClient, { type BodySerializer } from "openapi-fetch";

import { reach } from "./reach";
import type { paths } from "./schema.generated";
import type { Conflict, Problem } from "./types";

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

export const api = createClient<paths>({ baseUrl: "/", fetch: reach });

export interface Answer<Data> {
  data?: Data;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws what went wrong. */
export async function data<Data>(asked: Promise<Answer<Data>>): Promise<Data> {
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
export const withTuples = <Data>(asked: Promise<Answer<unknown>>) => data(asked as Promise<Answer<Data>>);

export async function dataOrNone<Data>(asked: Promise<Answer<Data>>): Promise<Data | null> {
  const answer = await asked;
  return answer.response.status === 404 ? null : data(Promise.resolve(answer));
}

export const design = (id: string) => ({ params: { path: { design_id: id } } });
export const revision = (id: string, number: number) => ({ params: { path: { design_id: id, number } } });

/** A form with a file and what its user says of it. */
export const form =
  <Body>(file: File | null, key: string, told: unknown): BodySerializer<Body> =>
  () => {
    const filled = new FormData();
    filled.append(key, JSON.stringify(told));
    if (file) filled.append("file", file);
    return filled;
  };
