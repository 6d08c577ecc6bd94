import { describe, expect, it } from "vitest";

import type { Design } from "../api/types";
import { patched } from "./patched";

const design = { name: "Plan", lines: [{ id: "l", product: "a" }], outlets: [] } as unknown as Design;

describe("a design with a patch made", () => {
  it("is another one, and the one before stays as it was", () => {
    const after = patched(design, [{ op: "replace", path: "/lines/0/product", value: "b" }]);
    expect(after.lines?.[0]?.product).toBe("b");
    expect(design.lines?.[0]?.product).toBe("a");
  });

  it("may have parts added and taken out", () => {
    const after = patched(design, [
      { op: "add", path: "/lines/0/inline", value: [{ kind: "vent", at_m: 3 }] },
      { op: "remove", path: "/lines/0/product" },
    ]);
    expect(after.lines).toEqual([{ id: "l", inline: [{ kind: "vent", at_m: 3 }] }]);
  });

  it("is none where the patch does not fit", () => {
    expect(() => patched(design, [{ op: "replace", path: "/lines/4/product", value: "b" }])).toThrow();
  });
});
