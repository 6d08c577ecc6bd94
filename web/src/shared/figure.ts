/** Which figure of a document a JSON pointer means, in words. */
import type { Design } from "../api/types";

/** A key of the document as words: without its unit, dashes for underscores. */
export const keyInWords = (key: string): string =>
  key.replace(/_(m|mm|l|s|c|kg|lpm|lpd|kpa|m3h|min)$/, "").replaceAll("_", " ");

/** "Low leg, length": the part's name and the figure, found in the first of the versions that has it. */
export function figureOf(
  byId: (document: Design) => Record<string, unknown>,
  path: string,
  ...versions: Design[]
): string {
  const [kind = "", id = "", ...keys] = path.split("/").slice(1);
  const words = [...keys].reverse().find((key) => !/^\d+$/.test(key)) ?? (id || kind);
  for (const version of versions) {
    const part = (byId(version)[kind] as Record<string, { name?: string }> | undefined)?.[id];
    if (part && typeof part === "object") return `${part.name ?? id}, ${keyInWords(words)}`;
  }
  return keys.length || id ? `${kind}, ${keyInWords(words)}` : keyInWords(kind);
}
