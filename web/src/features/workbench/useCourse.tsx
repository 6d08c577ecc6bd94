/** The section between any two places, where it is asked for in place of an outlet's way. */
import { useMemo, useState } from "react";

import { askCourse } from "../../api/client";
import type { Design } from "../../api/types";
import { BareChoice } from "../../shared/BareChoice";
import { named } from "../../shared/names";
import { shownCourse, type ShownRoute } from "../../shared/route";
import { useSettled } from "../../shared/useSettled";
import { standing } from "../../shared/standing";

export const BETWEEN = "between";

interface Ends {
  start: string;
  end: string;
}

export function useCourse(document: Design) {
  const [ends, setEnds] = useState<Ends | null>(null);
  const told = useSettled(["course", ends], document, ends ? document : null, async (question, signal) =>
    ends ? askCourse(question, ends.start, ends.end, signal) : null,
  );
  const course = useMemo(
    (): ShownRoute | null =>
      ends && told && told.start === ends.start && told.end === ends.end
        ? { ...shownCourse(told), key: BETWEEN }
        : null,
    [ends, told],
  );
  const nodes = useMemo(() => nodesOf(document), [document]);
  const begin = () => {
    const [first, last] = [nodes[0], nodes.at(-1)];
    if (first && last) setEnds({ start: first.value, end: last.value });
  };
  const fields = ends && (
    <>
      <BareChoice
        name="From"
        value={ends.start}
        options={nodes}
        onChange={(start) => setEnds({ ...ends, start })}
      />
      <BareChoice name="To" value={ends.end} options={nodes} onChange={(end) => setEnds({ ...ends, end })} />
      {!course && <span role="status">no line connects the two</span>}
    </>
  );
  return { asked: ends !== null, course, fields, begin, leave: () => setEnds(null) };
}

/** Every node that a line ends on, by its name. */
function nodesOf(document: Design): { value: string; text: string }[] {
  const ended = new Set((document.lines ?? []).flatMap((line) => [line.from, line.to]));
  const parts = [...standing(document), ...document.places];
  return parts.filter((part) => ended.has(part.id)).map((part) => ({ value: part.id, text: named(part) }));
}
