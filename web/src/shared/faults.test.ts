import { describe, expect, it } from "vitest";

import { Refused } from "../api/client";
import type { Fault } from "../api/types";
import { faultAt, whatIsWrong } from "./faults";

const fault = (path: string, limit: string): Fault => ({
  code: "x",
  path,
  value: "9",
  limit,
  message: `${path}: found 9; allowed: ${limit}`,
});

describe("what the server said of a figure", () => {
  it("is found at its pointer, wherever the document stands in the body", () => {
    const faults = [fault("/document/places/0/ground_m", "less"), fault("/document/sights/1", "two places")];
    expect(faultAt(faults, "/places/0/ground_m")).toBe("allowed: less");
    expect(faultAt(faults, "/sights/1")).toBe("allowed: two places");
    expect(faultAt(faults, "/places/1/ground_m")).toBeUndefined();
  });
});

describe("why nothing was taken", () => {
  it("names the first three faults", () => {
    const faults = ["a", "b", "c", "d"].map((path) => fault(path, "less"));
    const told = whatIsWrong(new Refused(422, { code: "refused", message: "4 fault(s)", faults }));
    expect(told).toMatch(/^Nothing was taken\. a: found 9/);
    expect(told).toMatch(/c: found 9/);
    expect(told).not.toMatch(/d: found/);
  });

  it("names no place where all of a file is at fault", () => {
    const told = whatIsWrong(
      new Refused(422, { code: "refused", message: "", faults: [fault("/", "text")] }),
    );
    expect(told).toBe("Nothing was taken. found 9; allowed: text");
  });

  it("is what the service says where no figure is at fault", () => {
    const down = new Refused(503, { code: "no_service", message: "It is down.", faults: [] });
    expect(whatIsWrong(down)).toBe("It is down.");
    expect(whatIsWrong(new Error("no way there"))).toBe("no way there");
    expect(whatIsWrong("odd")).toBe("odd");
  });
});
