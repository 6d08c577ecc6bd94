/** A design with a JSON Patch made on it. */
import jsonPatch, { type Operation } from "fast-json-patch";

import type { Design } from "../api/types";

export const patched = (document: Design, patch: unknown[]): Design =>
  jsonPatch.applyPatch(document, patch as Operation[], true, false).newDocument;
