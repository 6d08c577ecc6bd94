/** The whole workbench on a plan, without a browser: by labels and marks that a person meets too. */
import { fireEvent, waitFor } from "@testing-library/dom";
import userEvent, { PointerEventsCheckLevel } from "@testing-library/user-event";
import { createRoot, type Root } from "react-dom/client";
import { MemoryRouter, Route, Routes } from "react-router";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { ThemeProvider } from "@mui/material/styles";
import { expect } from "vitest";

import { createDesign } from "../api/client";
import type { Design } from "../api/types";
import { theme } from "../app/theme";
import { useBench, Workbench } from "../features/workbench";
import { usePreferences } from "../shared/preferences";
import { farm } from "./farm";
import { hearRest } from "./server";

/** A text with its spaces as single ones. */
const plain = (text: string) => text.replace(/[\s\u202f\u00a0]+/g, " ").trim();

/** What stands in an element, what is in different elements apart. */
function told(element: Element | undefined): string {
  if (!element) return "";
  const texts = window.document.createTreeWalker(element, NodeFilter.SHOW_TEXT);
  let text = "";
  let before: Node | null = null;
  while (texts.nextNode()) {
    const { currentNode } = texts;
    text += currentNode.parentNode === before ? "" : " ";
    text += currentNode.textContent ?? "";
    before = currentNode.parentNode;
  }
  return plain(text);
}

type Field = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;

const isField = (found: Element | undefined): found is Field =>
  found instanceof HTMLInputElement ||
  found instanceof HTMLSelectElement ||
  found instanceof HTMLTextAreaElement;

export class Bench {
  readonly user = userEvent.setup({ delay: null, pointerEventsCheck: PointerEventsCheckLevel.Never });

  constructor(readonly designId: string) {}

  /** The design as it stands in the page. */
  document(): Design {
    const { document, pending } = useBench.getState();
    if (!document || pending) throw new Error("the plan is not there yet");
    return document;
  }

  /** Whether the server holds what the page shows. */
  saved(): boolean {
    return useBench.getState().saving.state === "saved" && !useBench.getState().pending;
  }

  all(css: string): HTMLElement[] {
    return [...window.document.querySelectorAll<HTMLElement>(css)];
  }

  /** The one element that is there, or comes. */
  find(css: string): Promise<HTMLElement> {
    return this.until(() => {
      const [found] = this.all(css);
      if (!found) throw new Error(`there is no ${css}`);
      return found;
    });
  }

  /** What all of an element says now; nothing where it is not there. */
  text(css: string): string {
    return told(this.all(css)[0]);
  }

  told = told;
  verdict = () => this.text("[data-testid=verdict]");
  number = (key: string) => this.text(`[data-testid=number-${key}]`);

  /** Wait until something holds, or an expectation is met. */
  until<Found>(holds: () => Found | Promise<Found>): Promise<Found> {
    return waitFor(async () => {
      const found = await holds();
      if (found === false) throw new Error(`not so: ${String(holds)}`);
      return found;
    });
  }

  seen = (css: string, text: string) => this.until(() => expect(this.text(css)).toContain(text));
  gone = (css: string) => this.until(() => expect(this.all(css)).toEqual([]));

  /** Wait until one of the four numbers holds a text. */
  numbered = (key: string, text: string) => this.seen(`[data-testid=number-${key}]`, plain(text));

  button(name: string, within = "body"): Promise<HTMLButtonElement> {
    return this.until(() => {
      const found = this.all(`${within} button`).find((button) =>
        (button.getAttribute("aria-label") ?? told(button)).includes(name),
      );
      if (!(found instanceof HTMLButtonElement)) throw new Error(`there is no button ${name} in ${within}`);
      return found;
    });
  }

  async press(name: string, within = "body"): Promise<void> {
    await this.user.click(await this.button(name, within));
  }

  async click(css: string): Promise<void> {
    await this.user.click(await this.find(css));
  }

  /** The field of a label; of several the first, or the one that is named by its place from the end. */
  field(label: string, within = "body", place = 0): Promise<Field> {
    return this.until(() => {
      const found = this.all(`${within} :is(input, select, textarea)`)
        .filter((field) => field.getAttribute("aria-label") === label || labels(field).includes(label))
        .at(place);
      if (!isField(found)) throw new Error(`there is no field ${label} in ${within}`);
      return found;
    });
  }

  /** What is said under a field. */
  helpOf(field: HTMLElement): string {
    return told(this.all(`[id='${field.id}-helper-text']`)[0]);
  }

  async fill(label: string, text: string, within = "body"): Promise<void> {
    const field = await this.field(label, within);
    await this.user.clear(field);
    if (text) await this.user.type(field, text);
  }

  async choose(label: string, value: string, within = "body"): Promise<void> {
    await this.user.selectOptions(await this.withOption(() => this.field(label, within), value), value);
  }

  async chooseIn(css: string, value: string): Promise<void> {
    await this.user.selectOptions(await this.withOption(() => this.find(css), value), value);
  }

  /** A field once it has an option: what is to be chosen from may be on its way. */
  private async withOption<T extends HTMLElement>(find: () => Promise<T>, value: string): Promise<T> {
    await this.until(async () => {
      const options = [...(await find()).querySelectorAll("option")];
      if (!options.some((option) => option.value === value || option.text === value))
        throw new Error(`there is no ${value} to choose`);
    });
    return find();
  }

  /** Give a day or a time of day to the browser's own field. */
  async set(label: string, value: string): Promise<void> {
    const field = await this.field(label);
    fireEvent.input(field, { target: { value } });
    fireEvent.blur(field);
  }

  /** Tick the last box of that label, or take the tick away. */
  async tick(label: string, within = "body"): Promise<void> {
    await this.user.click(await this.field(label, within, -1));
  }

  /** Open the details of a part of the plan by its name. */
  async part(name: string): Promise<void> {
    if (!this.all("[aria-label=Details]").length) await this.click("aside [role=tab]");
    await this.user.selectOptions(await this.field("Details of"), name);
  }

  /** Choose an entry of one of the bar's menus; it acts once the menu has gone. */
  async menu(name: string, entry: string): Promise<void> {
    await this.press(name, "header");
    const found = await this.until(() => {
      const item = this.all("[role^=menuitem]").find((one) => told(one).includes(entry));
      if (!item) throw new Error(`there is no ${entry} in the menu ${name}`);
      return item;
    });
    await this.user.click(found);
    await this.gone("[role=menu]");
    await new Promise((resolve) => setTimeout(resolve, 300));
  }

  /** Open a finding, beside the plan or in another view: its reason and its other fixes. */
  async finding(code: string): Promise<string> {
    const tab = this.all("aside [role=tab]").at(-1);
    if (tab) await this.user.click(tab);
    const card = `[data-testid=finding-${code}]`;
    const line = await this.find(`${card} button[aria-expanded]`);
    if (line.getAttribute("aria-expanded") !== "true") await this.user.click(line);
    return card;
  }

  showCase = (name: string) => this.menu("Case:", name);

  /** Open a line of an overview, by the id of what it is about. */
  async row(id: string): Promise<void> {
    const button = await this.find(`[data-testid=row-${id}] button`);
    if (button.getAttribute("aria-expanded") !== "true") await this.user.click(button);
  }

  async tab(name: string): Promise<void> {
    const tab = await this.until(() => {
      const found = this.all("[role=tab]").find(({ textContent }) => textContent === name);
      if (!found) throw new Error(`there is no tab ${name}`);
      return found;
    });
    await this.user.click(tab);
  }

  async give(file: File, name?: string): Promise<void> {
    const field = await this.find(`input[type=file]${name ? `[aria-label='${name}']` : ""}`);
    await this.user.upload(field, file);
  }

  /** Go to another view of the plan. */
  async open(view: string): Promise<void> {
    await this.user.click(await this.find(`nav a[href$='/${view}']`));
    await this.standsOpen();
  }

  standsOpen = () => this.until(() => this.verdict() !== "" && !/Opening the/.test(this.text("main")));
}

const labels = (field: HTMLElement) =>
  isField(field) ? [...(field.labels ?? [])].map((label) => told(label)) : [];

let root: Root | null = null;

/** Take the page away. */
export function leave(): void {
  root?.unmount();
  root = null;
  window.document.body.replaceChildren();
}

interface Opened {
  /** the demonstration design, if no other is given */
  document?: Design;
  /** have the page told what takes longer too */
  rest?: boolean;
  /** do not wait for the first answer */
  unanswered?: boolean;
}

/** The workbench open at a view, on a plan of the test's own. */
export async function openBench(
  view: string,
  { document, rest = false, unanswered = false }: Opened = {},
): Promise<Bench> {
  hearRest(rest);
  const { design_id: id } = await createDesign(document ?? (await farm()));
  usePreferences.setState({ system: "metric" });
  leave();
  const place = window.document.body.appendChild(window.document.createElement("div"));
  root = createRoot(place);
  root.render(
    <ThemeProvider theme={theme} defaultMode="light">
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: 1 } } })}>
        <MemoryRouter initialEntries={[`/designs/${id}/${view}`]}>
          <Routes>
            <Route path="/designs/:designId/:view" element={<Workbench />} />
          </Routes>
        </MemoryRouter>
      </QueryClientProvider>
    </ThemeProvider>,
  );
  const bench = new Bench(id);
  if (!unanswered) await bench.standsOpen();
  return bench;
}
