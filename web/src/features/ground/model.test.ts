import { describe, expect, it } from "vitest";

import type { BookReport, Design, LevelBook } from "../../api/types";
import { asSight, errorOf, newBook, sightOf, takeHeights } from "./model";

describe("sights of a level book", () => {
  it("are told by what was read, and change into one another without losing it", () => {
    const mid = { place: "a", mid_m: 1.25 };
    expect(sightOf(mid)).toBe("between");
    const moves = asSight(mid, "moves");
    expect(moves).toEqual({ place: "a", fore_m: 1.25, back_m: 1.25 });
    expect(sightOf(moves)).toBe("moves");
    const last = asSight({ ...moves, back_m: 2 }, "last");
    expect(last).toEqual({ place: "a", fore_m: 1.25 });
    expect(sightOf(last)).toBe("last");
    expect(sightOf(asSight(last, "between"))).toBe("between");
    expect(sightOf({ back_m: 1 })).toBe("first");
  });
});

describe("a book's heights", () => {
  const draft = {
    places: [
      { id: "a", ground_m: 100 },
      { id: "b", ground_m: 90 },
    ],
    books: [{ id: "book-1" }],
    lines: [
      {
        id: "l",
        from: "a",
        to: "b",
        points: [
          [0, 100],
          [50, 90],
        ],
      },
    ],
  } as unknown as Design;
  const book = {
    id: "k",
    readings: [
      { place: "a", back_m: 1 },
      { place: "b", fore_m: 3.5 },
    ],
  } as LevelBook;
  const report = {
    points: [{ adjusted_m: 100 }, { adjusted_m: 97.5004 }],
    misclosure_m: -0.004,
  } as unknown as BookReport;

  it("are taken over for all but the first place, with the ends of lines there and how good they are", () => {
    takeHeights(draft, book, report, errorOf(report));
    expect(draft.places[0]).toEqual({ id: "a", ground_m: 100 });
    expect(draft.places[1]).toEqual({
      id: "b",
      ground_m: 97.5,
      height_from: "level and staff",
      height_error_m: 0.01,
    });
    expect(draft.lines?.[0]?.points?.[1]).toEqual([50, 97.5]);
  });

  it("start at the first place under a free name", () => {
    expect(newBook(draft)).toMatchObject({ id: "book-2", readings: [{ place: "a", back_m: 1.5 }] });
  });
});
