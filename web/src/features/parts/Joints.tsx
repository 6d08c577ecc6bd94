import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { PartsNeeded } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { quantityText } from "../../shared/units";
import type { PartsProps } from "./Parts";
import { Places } from "../../shared/Places";

type Joint = PartsNeeded["connections"][number];
type Chain = NonNullable<Joint["chain"]>;

const ALL = "";
const FEW = 30; // at once: of a large plan there are a thousand

/** Every joint of the plan: what goes between, what seals it and why, how tight; those without an answer first. */
export function Joints({ document, needed, onShow, onTry }: PartsProps & { needed: PartsNeeded }) {
  const [where, setWhere] = useState(ALL);
  const [all, setAll] = useState(false);
  const stands = (joint: Joint) => joint.line ?? joint.place ?? "";
  const places = [...new Set(needed.connections.map(stands))];
  const chosen = places.includes(where) ? where : ALL;
  const listed = alike(
    needed.connections
      .filter((joint) => chosen === ALL || stands(joint) === chosen)
      .sort((a, b) => Number(a.chain !== null) - Number(b.chain !== null)),
  );
  const { in_line } = needed;
  return (
    <Box component="section" aria-label="Joints" sx={{ p: 4, maxWidth: 900 }}>
      <Typography variant="h1">Joints</Typography>
      <Typography sx={{ my: 2, maxWidth: 720 }}>
        From each end to the next with the fewest adapters. How to seal and how tight is common practice: what
        the maker says goes before it.
      </Typography>
      <Box sx={{ my: 2, maxWidth: 720 }} data-testid="joints-in-lines">
        {in_line ? (
          <>
            The flows do not have these joints yet.{" "}
            <Button variant="outlined" onClick={() => onTry(in_line)}>
              Calculate with their bores
            </Button>
          </>
        ) : (
          "The flows have the bore of every joint here."
        )}{" "}
        <Box component="span" sx={{ color: ink("faint"), fontSize: 13 }}>
          Each counts as a narrow piece of its line by itself: several in a row take a little less.
          {(in_line?.left_out ?? 0) > 0 &&
            ` ${in_line?.left_out} from a tee straight into an outlet ${in_line?.left_out === 1 ? "is" : "are"} left out.`}
        </Box>
      </Box>
      <Box sx={{ width: 260, mb: 3 }}>
        <Choice
          label="At"
          value={chosen}
          options={[
            { value: ALL, text: "All of the plan" },
            ...places.map((id) => ({ value: id, text: nameOfPart(document, id) })),
          ]}
          onChange={setWhere}
        />
      </Box>
      {listed.slice(0, all ? undefined : FEW).map(({ joint, times }) => (
        <Box
          key={joint.id}
          component="article"
          aria-label={`${joint.first} to ${joint.second}`}
          data-testid={`joint-${joint.id}`}
          sx={{ borderTop: `1px solid ${ink("rule")}`, py: 2 }}
        >
          <Typography component="h2" sx={{ fontWeight: 700 }}>
            {joint.first} <span aria-hidden>→</span> {joint.second}
            {times > 1 && ` (${times} times)`}
          </Typography>
          <Box sx={{ color: ink("faint"), fontSize: 13 }}>
            {stands(joint) && <Places document={document} ids={[stands(joint)]} onShow={onShow} />}
            <At metres={joint.at_m} />
            {joint.start && joint.goal && ` · ${joint.start} to ${joint.goal}`}
          </Box>
          {joint.assumed.length > 0 && (
            <Box sx={{ color: ink("faint"), fontSize: 13 }}>assumed: {joint.assumed.join("; ")}</Box>
          )}
          {joint.chain ? (
            <ChainTold chain={joint.chain} currency={needed.currency} />
          ) : (
            <Box sx={{ color: ink("short") }}>Not solved: {joint.trouble}.</Box>
          )}
          {joint.wider && <Wider wider={joint.wider} chain={joint.chain} currency={needed.currency} />}
        </Box>
      ))}
      {!all && listed.length > FEW && <Button onClick={() => setAll(true)}>Show all {listed.length}</Button>}
    </Box>
  );
}

function At({ metres }: { metres: number | null }) {
  const system = usePreferences((state) => state.system);
  return metres === null ? null : <> at {quantityText({ value: metres, unit: "m", digits: 1 }, system)}</>;
}

/** The adapters in order, and what seals the joints between them: those that are sealed alike are told at once. */
function ChainTold({ chain, currency }: { chain: Chain; currency: string }) {
  const seals = [...new Set(chain.mates.map((mate) => mate.seal))];
  return (
    <Box sx={{ fontSize: 13, mt: 1 }}>
      {chain.links.length > 0 && (
        <Box>
          With {chain.links.map((link) => link.name).join("; then ")}
          {chain.price !== null && ` · ${priceText(chain.price, currency)}`}
          <Bore mm={chain.narrowest_mm} />
        </Box>
      )}
      <ul style={{ margin: "4px 0", paddingLeft: 20 }}>
        {seals.map((seal) => {
          const alike = chain.mates.filter((mate) => mate.seal === seal);
          const [mate] = alike;
          const numbers = chain.mates.flatMap((one, index) => (one.seal === seal ? [index + 1] : []));
          return (
            <li key={seal}>
              {seals.length > 1 && `Joint ${numbers.join(", ")}: `}
              {seal}; {mate?.tighten}. <span style={{ color: ink("faint") }}>Why: {mate?.why}.</span>
            </li>
          );
        })}
      </ul>
    </Box>
  );
}

/** Joints of which only the number in the plan differs, once each, as a part between two ends of one pipe has. */
function alike(joints: Joint[]): { joint: Joint; times: number }[] {
  const found = new Map<string, { joint: Joint; times: number }>();
  for (const joint of joints) {
    const key = JSON.stringify({ ...joint, id: "", own: [] });
    const before = found.get(key);
    found.set(key, before ? { ...before, times: before.times + 1 } : { joint, times: 1 });
  }
  return [...found.values()];
}

function Bore({ mm }: { mm: number }) {
  const system = usePreferences((state) => state.system);
  return <> · narrowest bore {quantityText({ value: mm, unit: "mm", digits: 1 }, system)}</>;
}

/** What would be wider than the fewest adapters, and what that costs more. */
function Wider({ wider, chain, currency }: { wider: Chain; chain: Chain | null; currency: string }) {
  return (
    <Box sx={{ fontSize: 13 }}>
      Wider: {wider.links.map((link) => link.name).join(", then ")}
      <Bore mm={wider.narrowest_mm} />
      {wider.price !== null && ` · ${priceText(wider.price, currency)}`}
      {wider.price !== null &&
        typeof chain?.price === "number" &&
        ` instead of ${priceText(chain.price, currency)}`}
    </Box>
  );
}
