import { afterEach, expect, test, vi } from "vitest";

import { Refused, Stale, Unreachable, type Save } from "./client";
import { createOnce, saveOnce } from "./once";
import type { Conflict, Design } from "./types";

const server = vi.hoisted(() => ({ createDesign: vi.fn(), saveDesign: vi.fn() }));
vi.mock("./client", async (original) => ({ ...(await original<object>()), ...server }));

const refusal = (status: number) => new Refused(status, { code: "x", message: "no", faults: [] });
const plan = (name: string) => ({ name }) as Design;
const saves = () => server.saveDesign.mock.calls.map(([save]) => save as Save);

afterEach(() => vi.resetAllMocks());

test("a save whose answer was lost is sent again as it was, and what came after builds on it", async () => {
  const [first, second] = [plan("first"), plan("second")];
  server.saveDesign
    .mockRejectedValueOnce(new Unreachable())
    .mockRejectedValueOnce(refusal(503))
    .mockResolvedValueOnce({ number: 5 })
    .mockResolvedValueOnce({ number: 6 });
  await expect(saveOnce("a", 4, first, "me")).rejects.toThrow(Unreachable);
  await expect(saveOnce("a", 4, first, "me")).rejects.toThrow(Refused);
  expect(await saveOnce("a", 4, second, "me")).toBe(6);
  const [lost, again, through, next] = saves();
  expect([again, through]).toEqual([lost, lost]);
  expect(next).toMatchObject({ baseNumber: 5, document: second });
  expect(next?.saveId).not.toBe(lost?.saveId);
});

test.each([
  ["refused", refusal(422)],
  ["answered", null],
])("a save that was %s is not sent again", async (_, error) => {
  if (error) server.saveDesign.mockRejectedValueOnce(error);
  server.saveDesign.mockResolvedValue({ number: 2 });
  const document = plan("same");
  await saveOnce("b", 1, document, "").catch(() => undefined);
  await saveOnce("b", 1, document, "");
  const [one, other] = saves();
  expect(saves()).toHaveLength(2);
  expect(other?.saveId).not.toBe(one?.saveId);
});

test("a lost save that turns out to be stale is told, and the later one waits for the user", async () => {
  server.saveDesign
    .mockRejectedValueOnce(new Unreachable())
    .mockRejectedValueOnce(new Stale({ message: "late" } as Conflict));
  await expect(saveOnce("c", 1, plan("one"), "")).rejects.toThrow(Unreachable);
  await expect(saveOnce("c", 1, plan("two"), "")).rejects.toThrow(Stale);
  server.saveDesign.mockResolvedValue({ number: 9 });
  await saveOnce("c", 8, plan("decided"), "");
  expect(saves().map((save) => save.document.name)).toEqual(["one", "one", "decided"]);
});

test("a new plan has one id until it is answered, and another plan another", async () => {
  server.createDesign
    .mockRejectedValueOnce(new Unreachable())
    .mockRejectedValueOnce(new Unreachable())
    .mockResolvedValue({ number: 1 });
  await expect(createOnce(plan("one"))).rejects.toThrow();
  await expect(createOnce(plan("one"))).rejects.toThrow();
  await createOnce(plan("one"));
  await createOnce(plan("one"));
  await createOnce(plan("two"));
  const ids = server.createDesign.mock.calls.map(([, id]) => id as string);
  expect(new Set(ids.slice(0, 3)).size).toBe(1);
  expect(new Set(ids).size).toBe(3);
});
