/** Parts of the page that are fetched apart: when they are first opened, or before, as soon as there is time. */
import { lazy, Suspense, useState, type ComponentType, type ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";

import { Lost } from "./Lost";

/** A part of the page did not come. */
export class NotFetched extends Error {}

const loads: (() => Promise<unknown>)[] = [];

/** Fetch every part one after another, so that a connection that is lost later takes none of them away. */
export async function fetchAhead(): Promise<void> {
  for (const load of loads) await load().catch(() => null); // it says so itself where it is asked for
}

/** A part of the page in a module of its own; `meanwhile` stands in its place until it is here. */
export function lazyPart<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  meanwhile: ReactNode = null,
): ComponentType<Props> {
  loads.push(load);
  const part = () =>
    lazy(async () => {
      try {
        return { default: await load() };
      } catch {
        throw new NotFetched();
      }
    });
  let first = part();
  return function LazyPart(props: Props) {
    const [Part, setPart] = useState(() => first);
    const again = () => {
      first = part();
      setPart(() => first);
    };
    return (
      <ErrorBoundary
        resetKeys={[Part]}
        fallbackRender={({ error }) => {
          if (!(error instanceof NotFetched)) throw error; // a fault of the part itself
          return <Lost onAgain={again} />;
        }}
      >
        <Suspense fallback={meanwhile}>
          <Part {...props} />
        </Suspense>
      </ErrorBoundary>
    );
  };
}
