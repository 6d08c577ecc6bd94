/** The workbench: its numbers are the core's, and nothing that is typed is lost. */
import { produce } from "immer";
import { expect, test, vi } from "vitest";

import { analyse } from "../../api/client";
import type { Design } from "../../api/types";
import { usePreferences } from "../../shared/preferences";
import { openBench } from "../../testing/bench";
import { type Change, expected, figures, many, named, numberText, wording } from "../../testing/farm";

const lower = (draft: Design) => {
  named(draft.places, "knoll").ground_m -= 1;
  const point = named(draft.lines, "weir-feed").points?.at(-1);
  if (point?.[1] !== undefined) point[1] -= 1;
};
const longer = (line: string, length: number) => (draft: Design) => {
  const found = named(draft.lines, line);
  const share = length / (found.length_m ?? NaN);
  found.length_m = length;
  found.points = found.points?.map(([at = NaN, ground = NaN]) => [Number((at * share).toFixed(3)), ground]);
};
const raised = (line: string, index: number, ground: number) => (draft: Design) => {
  const point = named(draft.lines, line).points?.[index];
  if (point) point[1] = ground;
};
const flowIn = (draft: Design, kv: number) => {
  const outlet = named(draft.outlets, "goose-valve");
  if (outlet.kind === "float_valve") outlet.valve.kv_m3h = kv;
};

test("lowering the tank changes flow and verdict to the core's, and is undone and made again", async () => {
  const [before, after] = [await expected(), await expected(lower)];
  const bench = await openBench("lines");
  await bench.numbered("flow", numberText(before, "flow"));
  const first = bench.verdict();
  await bench.part("West chamber");
  await bench.fill("Ground height", "265.4");
  await bench.numbered("flow", numberText(after, "flow"));
  expect(bench.verdict()).toContain(wording(after.verdict.sentence).replace(/\s/g, " "));
  expect(bench.verdict()).not.toBe(first);
  await bench.user.keyboard("{Enter}{Control>}z{/Control}");
  await bench.until(() => expect(bench.verdict()).toBe(first));
  await bench.press("Redo");
  await bench.numbered("flow", numberText(after, "flow"));
  await bench.until(() => bench.saved());
  expect(named(bench.document().places, "knoll").ground_m).toBe(265.4);
  usePreferences.setState({ system: "us" });
  await bench.numbered("flow", numberText(after, "flow", "us"));
  expect((await bench.field("Ground height")).value).toBe((265.4 / 0.3048).toFixed(2));
  await bench.part("all outlets");
  expect(bench.text("[aria-label=Details]")).toContain("gal/min");
});

interface Typed {
  view: string;
  part?: string;
  /** the line of an overview that is opened */
  row?: string;
  label: string;
  text: string;
  change: Change;
  number: string;
}

const TYPED: Typed[] = [
  {
    view: "lines",
    part: "Fold leg",
    label: "Length of pipe",
    text: "220",
    change: longer("fold-leg", 220),
    number: "flow",
  },
  {
    view: "lines",
    part: "Low leg",
    label: "Ground at 110 m",
    text: "265",
    change: raised("low-leg", 2, 265),
    number: "flow",
  },
  {
    view: "lines",
    part: "Goose pan valve",
    label: "Valve passes (Kv)",
    text: "0.4",
    change: (draft) => flowIn(draft, 0.4),
    number: "refill",
  },
  {
    view: "lines",
    part: "Goose pan",
    label: "Water level now",
    text: "0.2",
    change: (draft) => void (named(draft.vessels, "goose-pan").level_m = 0.2),
    number: "refill",
  },
  {
    view: "demand",
    row: "heifers",
    label: "Number of animals",
    text: "68",
    change: (draft) => void (named(draft.herds, "heifers").head = 68),
    number: "spare",
  },
  {
    view: "supply",
    label: "Days with no refill, target",
    text: "6",
    change: (draft) => void ((draft.requirements?.at(-1) ?? { days_in_hand: 0 }).days_in_hand = 6),
    number: "days",
  },
];

test.each(["lines", "demand", "supply"])(
  "every figure that is typed changes the numbers to the core's: %s",
  async (view) => {
    const bench = await openBench(view);
    const plan = bench.document();
    for (const { part, row, label, text, change, number } of TYPED.filter((typed) => typed.view === view)) {
      const { verdict } = await expected(change);
      const { value, wanted } = named(verdict.numbers, number, "key");
      const before = bench.number(number);
      if (part) await bench.part(part);
      if (row) await bench.row(row);
      await bench.fill(label, text);
      await bench.until(() => expect(bench.number(number)).not.toBe(before));
      await bench.numbered(number, wording([value ?? "none"]));
      await bench.numbered(number, wording(wanted));
      await bench.press("Undo");
      await bench.until(() => expect(bench.number(number)).toBe(before));
      expect(bench.document()).toEqual(plan);
    }
  },
);

test("a larger pipe is taken and undone", async () => {
  const bench = await openBench("lines");
  const before = bench.number("flow");
  await bench.part("Fold leg");
  await bench.choose("Pipe", "pe100-sdr17-40");
  const larger = await expected((draft) => void (named(draft.lines, "fold-leg").product = "pe100-sdr17-40"));
  await bench.numbered("flow", numberText(larger, "flow"));
  await bench.press("Undo");
  await bench.until(() => expect(bench.number("flow")).toBe(before));
});

test("typing a number is one step of undo", async () => {
  const bench = await openBench("lines");
  await bench.part("Low leg");
  const before = bench.number("flow");
  await bench.fill("Length of pipe", "253"); // passes over 2 and 25 on its way
  const far = await expected(longer("low-leg", 253));
  await bench.numbered("flow", numberText(far, "flow"));
  await bench.press("Undo");
  await bench.until(() => expect(bench.number("flow")).toBe(before));
  expect((await bench.field("Length of pipe")).value).toBe("182");
  expect((await bench.button("Undo")).disabled).toBe(true);
});

interface Nonsense {
  label: string;
  text: string;
  said: string;
}

const NONSENSE: Record<string, Nonsense[]> = {
  "demand heifers": [
    { label: "Number of animals", text: "7o", said: "“7o” is not a number" },
    { label: "Number of animals", text: "many", said: "“many” is not a number" },
    { label: "Number of animals", text: "-4", said: "allowed" },
    { label: "Weight each", text: "9000", said: "allowed" },
  ],
  "supply weir-intake": [
    { label: "Pail", text: "1e", said: "“1e” is not a number" },
    { label: "Filled in", text: "0", said: "allowed" },
  ],
  "supply glasshouse-roof": [{ label: "Runoff, %", text: "140", said: "allowed" }],
};

test.each(Object.entries(NONSENSE))(
  "nonsense is told where it stands and nothing is lost: %s",
  async (where, given) => {
    const [view = "", row = ""] = where.split(" ");
    const bench = await openBench(view);
    await bench.row(row);
    const verdict = bench.verdict();
    for (const { label, text, said } of given) {
      const field = await bench.field(label);
      const good = field.value;
      await bench.fill(label, text);
      await bench.until(() => expect(bench.helpOf(field)).toContain(said));
      expect(field.getAttribute("aria-invalid")).toBe("true");
      expect(bench.verdict()).toBe(verdict);
      await bench.fill(label, good);
      await bench.until(() => expect(field.getAttribute("aria-invalid")).toBe("false"));
      await bench.until(() => expect(bench.verdict()).toBe(verdict));
    }
  },
);

test("what is refused stays where it was typed, marked, until it is put right", async () => {
  const bench = await openBench("demand");
  await bench.row("heifers");
  const field = (await bench.field("Number of animals")) as HTMLInputElement;
  const before = bench.document();
  for (const [text, said] of [
    ["3o", "“3o” is not a number; 34 stands"],
    ["", "A number is needed; 34 stands"],
    ["1,200", "“1,200” may be two numbers: 1200 1.2"],
  ] as const) {
    await bench.fill("Number of animals", text);
    await bench.user.tab();
    expect(bench.helpOf(field)).toContain(said);
    expect(field.value).toBe(text);
    expect(field.getAttribute("aria-invalid")).toBe("true");
    expect(bench.document()).toEqual(before);
  }
  await bench.press("1200", `p[id='${field.id}-helper-text']`);
  await bench.until(() => expect(bench.document().herds?.[0]?.head).toBe(1200));
  expect(field.getAttribute("aria-invalid")).toBe("false");
  await bench.fill("Number of animals", "many");
  await bench.user.keyboard("{Escape}");
  expect(field.value).toBe("1200");
  await bench.fill("Number of animals", "x");
  await bench.press("Undo"); // the figure changes by other hands: what was refused is over
  await bench.until(() => expect(field.value).toBe("34"));
});

test("inches are typed as fractions, and limits come in the reader's units", async () => {
  const bench = await openBench("lines");
  usePreferences.setState({ system: "us" });
  await bench.part("Low trough");
  await bench.fill("Water level now", "1/2");
  await bench.until(() =>
    expect(named(bench.document().vessels, "low-trough").level_m).toBeCloseTo(0.1524, 6),
  );
  await bench.fill("Water level now", "9");
  await bench.seen("[aria-label=Details]", "allowed: at most 1.772");
  await bench.fill("Water level now", "0,5");
  await bench.until(() =>
    expect(named(bench.document().vessels, "low-trough").level_m).toBeCloseTo(0.1524, 6),
  );
});

test("what is not allowed is not saved, and the last figures that hold are shown", async () => {
  const bench = await openBench("lines");
  await bench.part("Low trough");
  for (const [label, text, said, good] of [
    ["Inside length", "-4", "allowed: 0.02 or more", "1.6"],
    ["Water level now", "0.58", "allowed: at most 0.54 m", "0.21"],
  ] as const) {
    await bench.fill(label, text);
    await bench.seen("[aria-label=Details]", said);
    await bench.seen("[data-testid=saving]", "a value is not allowed");
    expect(bench.text("[role=alert]")).toContain("last valid values");
    await bench.fill(label, good);
    await bench.until(() => bench.saved());
  }
  expect(named(bench.document().vessels, "low-trough").level_m).toBe(0.21);
});

test("a figure typed in US units is kept in the document's", async () => {
  const bench = await openBench("lines");
  usePreferences.setState({ system: "us" });
  await bench.part("Fold leg");
  await bench.fill("Length of pipe", "600");
  await bench.until(() =>
    expect(named(bench.document().lines, "fold-leg").length_m).toBeCloseTo(600 * 0.3048, 6),
  );
  await bench.numbered("flow", numberText(await expected(longer("fold-leg", 600 * 0.3048)), "flow", "us"));
});

test("a shut tap is no fault, and empty tanks are", async () => {
  const bench = await openBench("lines");
  await bench.part("Goose pan valve");
  await bench.choose("Stopcock", "shut");
  await bench.until(() => expect(bench.verdict()).not.toContain("Goose"));
  await bench.seen("[data-testid=told]", "shut by hand");
  await bench.choose("Stopcock", "open");
  await bench.seen("[data-testid=verdict]", "Yes, but: Goose pan valve");
  for (const chamber of ["West chamber", "East chamber"]) {
    await bench.part(chamber);
    await bench.fill("Water level now", "0.1");
  }
  await bench.seen("[data-testid=verdict]", "No: ");
  await bench.seen(await bench.finding("dry-outlet"), "down to its outlet");
});

test("every outlet has its flows and its range, together and each alone", async () => {
  const bench = await openBench("lines");
  await bench.part("all outlets");
  const { routes } = await expected();
  expect(routes.length).toBeGreaterThan(4);
  for (const route of routes) {
    const row = bench.text(`[data-testid=outlet-row-${route.outlet}]`);
    for (const { flow_lpm, flow_range: range } of [route.together, route.alone]) {
      const digits = (flow: number) => figures(flow, flow < 1 ? 2 : 1);
      expect(row).toContain(digits(flow_lpm));
      if (range) expect(row).toContain(`${digits(range.worst)}–${digits(range.best)}`);
    }
  }
});

test("a named case shuts what it names, and one is made in a line's own figures", async () => {
  const bench = await openBench("lines");
  const shut = await expected((draft) => void (draft.shown_for = "pond-shut"));
  await bench.part("all outlets");
  await bench.showCase("Pond shut off");
  await bench.numbered("flow", numberText(shut, "flow"));
  await bench.seen("[data-testid=outlet-row-pond-valve]", "shut");
  await bench.showCase("Hot spell");
  await bench.part("Fold leg");
  await bench.choose("In the case hot spell", "shut");
  const dry = await expected((draft) => void (named(draft.scenarios, "hot-spell").shut = ["fold-leg"]));
  await bench.numbered("flow", numberText(dry, "flow"));
  expect(named(dry.routes, "ewe-valve", "outlet").together.flow_lpm).toBe(0);
});

test("of many findings the worst are shown, and the others when they are asked for", async () => {
  const cards = () => bench.all("[aria-label=Findings] article").length;
  const bench = await openBench("lines", { document: await many() });
  const found = (await analyse(await many())).findings.length;
  expect(found).toBeGreaterThan(40);
  await bench.until(() => expect(cards()).toBe(20));
  await bench.press(`Show ${found - 20} more`);
  await bench.until(() => expect(cards()).toBe(found));
  await bench.press("Only the 20 worst");
  await bench.until(() => expect(cards()).toBe(20));
});

test("what would help in a large plan is tried when it is asked for and can be taken", async () => {
  const card = "[data-testid=finding-flow-below-wanted]";
  const tail = async (plan: Design) =>
    named((await analyse(plan)).routes, "v-n5x7", "outlet").together.flow_lpm;
  const large = produce(await many(), (draft) => {
    draft.requirements = [{ outlet: "v-n5x7", flow_lpm: 30 }];
  });
  const bench = await openBench("lines", { document: large });
  expect(bench.text(card)).not.toContain("Fix");
  await bench.press("Find fixes", card);
  await bench.seen(card, "Fix");
  const promised = /gives ([\d.]+ L\/min)/.exec((await bench.button("Fix", card)).title)?.[1] ?? "nothing";
  await bench.press("Fix", card);
  await bench.numbered("flow", promised);
  await bench.press("Keep");
  await bench.until(() => bench.saved());
  expect(await tail(bench.document())).toBeGreaterThan(await tail(large));
});

test("while the first answer does not come the plan is drawn, edited and undone, and it is said what is slow", async () => {
  const fetched = globalThis.fetch;
  const slow = vi
    .spyOn(globalThis, "fetch")
    .mockImplementation((input, init) =>
      input instanceof Request && /\/(api\/analyses|analysis)$/.test(input.url)
        ? new Promise(() => undefined)
        : fetched(input, init),
    );
  try {
    const bench = await openBench("lines", { unanswered: true });
    await bench.find("[data-testid=plan-low-trough]");
    const before = named(bench.document().vessels, "low-trough").level_m;
    await bench.part("Low trough");
    await bench.fill("Water level now", "0.3");
    await bench.until(() => expect(named(bench.document().vessels, "low-trough").level_m).toBe(0.3));
    await bench.press("Undo");
    await bench.until(() => expect(named(bench.document().vessels, "low-trough").level_m).toBe(before));
    await bench.seen("[data-testid=slow]", "12 pipes with");
    expect(bench.text("[data-testid=slow]")).toContain("go on editing");
  } finally {
    slow.mockRestore();
  }
});
