import { expect, it } from "vitest";

import { fetchAhead, later } from "./later";

it("fetches a part once, and again only where that failed", async () => {
  let asked = 0;
  const part = later(() => {
    asked += 1;
    return asked === 1 ? Promise.reject(new Error("no connection")) : Promise.resolve("tables");
  });
  await expect(part.fetch()).rejects.toThrow("no connection");
  expect(part.fetched()).toBeNull();
  expect(await part.fetch()).toBe("tables");
  expect(await part.fetch()).toBe("tables");
  expect(part.fetched()).toBe("tables");
  expect(asked).toBe(2);
});

it("fetches all ahead, past those that fail", async () => {
  const lost = later(() => Promise.reject(new Error("no connection")));
  const after = later(() => Promise.resolve("choices"));
  await fetchAhead();
  expect(lost.fetched()).toBeNull();
  expect(after.fetched()).toBe("choices");
});
