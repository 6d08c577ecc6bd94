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
import { Places } from "./Places";

type Joint = PartsNeeded["connections"][number];
type Chain = NonNullable<Joint["chain"]>;

const ALL = "";
const FEW = 30; // at once: of a large plan there are a thousand

/** Every joint of the plan: what goes between, what seals it and why, how tight; those without an answer first. */
export function Joints({ document, needed, onShow }: PartsProps & { needed: PartsNeeded }) {
  const [where, setWhere] = useState(ALL);
  const [all, setAll] = useState(false);
  const stands = (joint: Joint) => joint.line ?? joint.place ?? "";
  const places = [...new Set(needed.connections.map(stands))];
  const chosen = places.includes(where) ? where : ALL;
  const listed = needed.connections
    .filter((joint) => chosen === ALL || stands(joint) === chosen)
    .sort((a, b) => Number(a.chain !== null) - Number(b.chain !== null));
  return (
    <Box component="section" aria-label="Joints" sx={{ p: 4, maxWidth: 900 }}>
      <Typography variant="h1">Joints</Typography>
      <Typography sx={{ my: 2, maxWidth: 720 }}>
        From each end to the next with the fewest adapters. How to seal and how tight is common practice: what
        the maker says goes before it.
      </Typography>
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
      {listed.slice(0, all ? undefined : FEW).map((joint) => (
        <Box
          key={joint.id}
          component="article"
          aria-label={`${joint.first} to ${joint.second}`}
          data-testid={`joint-${joint.id}`}
          sx={{ borderTop: `1px solid ${ink("rule")}`, py: 2 }}
        >
          <Typography component="h2" sx={{ fontWeight: 700 }}>
            {joint.first} <span aria-hidden>→</span> {joint.second}
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
            <ChainTold joint={joint} chain={joint.chain} currency={needed.currency} />
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

/** The adapters in order, and between each two what seals them. */
function ChainTold({ joint, chain, currency }: { joint: Joint; chain: Chain; currency: string }) {
  const names = [joint.first, ...chain.links.map((link) => link.name), joint.second];
  return (
    <Box sx={{ fontSize: 13, mt: 1 }}>
      {chain.links.length > 0 && (
        <Box>
          With {chain.links.map((link) => link.name).join(", then ")}
          {chain.price !== null && ` · ${priceText(chain.price, currency)}`}
          <Bore mm={chain.narrowest_mm} />
        </Box>
      )}
      <ul style={{ margin: "4px 0", paddingLeft: 20 }}>
        {chain.mates.map((mate, index) => (
          <li key={index}>
            {chain.mates.length > 1 && `${names[index]} into ${names[index + 1]}: `}
            {mate.seal}; {mate.tighten}. <span style={{ color: ink("faint") }}>Why: {mate.why}.</span>
          </li>
        ))}
      </ul>
    </Box>
  );
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
