/** What can be placed on the plan or at the end of a pipe. */
import type { Thing } from "../../api/types";

interface Offered {
  value: Thing;
  text: string;
  /** what it is called where no name is typed */
  name: string;
  group: string;
  /** on a pipe it is joined by a tee */
  onLine: boolean;
}

export const THINGS: Offered[] = [
  { value: "trough", text: "a trough with a float valve", name: "Trough", group: "Animals", onLine: true },
  {
    value: "drinker",
    text: "a small drinker with a float valve",
    name: "Drinker",
    group: "Animals",
    onLine: true,
  },
  { value: "tap", text: "an open end or tap", name: "Tap", group: "Other outlets", onLine: true },
  { value: "drip outlet", text: "a drip outlet", name: "Drip outlet", group: "Other outlets", onLine: true },
  { value: "fixed flow", text: "a fixed flow", name: "Fixed flow", group: "Other outlets", onLine: true },
  { value: "junction", text: "a junction: pipes meet here", name: "Junction", group: "Pipes", onLine: true },
  { value: "tank", text: "a tank", name: "Tank", group: "Stores", onLine: false },
  { value: "spring box", text: "a spring box", name: "Spring box", group: "Stores", onLine: false },
  { value: "pond", text: "a pond", name: "Pond", group: "Stores", onLine: false },
  { value: "mains", text: "mains", name: "Mains", group: "Sources under pressure", onLine: false },
  {
    value: "well",
    text: "a well with a pressure tank",
    name: "Well",
    group: "Sources under pressure",
    onLine: false,
  },
  { value: "ram", text: "a ram pump", name: "Ram", group: "Sources under pressure", onLine: false },
];

/** What may stand at the end of a pipe. */
export const ENDS = THINGS.filter((one) => one.onLine || one.value === "tank");

/** What a pipe may start at where nothing stands yet. */
export const STARTS = THINGS.filter((one) => !one.onLine);
