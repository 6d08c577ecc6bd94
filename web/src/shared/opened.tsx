import type { ComponentType, ReactNode } from "react";

import { later, useLater } from "./later";
import { Lost } from "./Lost";

/** A part of the page that is fetched when it is first opened; `meanwhile` stands in its place. */
export function opened<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  meanwhile: ReactNode = null,
): ComponentType<Props> {
  const fetched = later(load);
  return function Opened(props: Props) {
    const { part: Part, lost, again } = useLater(fetched);
    if (Part) return <Part {...props} />;
    return lost ? <Lost onAgain={again} /> : meanwhile;
  };
}
