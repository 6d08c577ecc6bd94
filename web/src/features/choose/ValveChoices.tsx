import { useQuery } from "@tanstack/react-query";

import { compareValves } from "../../api/client";
import type { Catalogue, Design } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { useLookEveryH } from "../../shared/defaults";
import { whatIsWrong } from "../../shared/faults";
import { named } from "../../shared/names";
import { patched } from "../../shared/patched";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { StandingMark } from "../../shared/StandingMark";
import { quantityText } from "../../shared/units";
import { SideBySide } from "./SideBySide";

interface Props {
  document: Design;
  index: number;
  catalogue: Catalogue | undefined;
  onTry: (document: Design, text: string) => void;
  onLeave: () => void;
}

/** Float valves side by side at one outlet, drawing by itself: what each passes, and what it loses when it sticks. */
export function ValveChoices({ document, index, catalogue, onTry, onLeave }: Props) {
  const system = usePreferences((state) => state.system);
  const lookEveryH = useLookEveryH(document);
  const outlet = document.outlets?.[index];
  const own = (catalogue?.float_valves ?? []).filter((valve) => valve.source_id === "own");
  const asked = useQuery({
    queryKey: ["valves", document, outlet?.id],
    queryFn: ({ signal }) => compareValves(document, outlet?.id ?? "", own, signal),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });
  if (outlet?.kind !== "float_valve") return null;
  const told = asked.data;
  const say = (value: number | null | undefined, unit: "L/min" | "L" | "min" | "kPa", instead: string) =>
    value === null || value === undefined ? instead : quantityText({ value, unit }, system);
  return (
    <SideBySide
      title={`Valves at ${named(outlet)}`}
      about={
        told && (
          <>
            Shut, {say(told.shut_kpa, "kPa", "an unknown pressure")} stand on it. By itself the pipe could
            bring {say(told.pipe_lpm, "L/min", "")}
            {told.wanted_lpm === null ? "" : `; ${say(told.wanted_lpm, "L/min", "")} wanted`}. A full flow
            keeps a mob’s trough up; a small one loses little when it sticks open.
          </>
        )
      }
      instead={asked.isError ? whatIsWrong(asked.error) : told ? null : "Calculating each of them …"}
      head={[
        "Valve",
        "Opens",
        "Shuts",
        "Passes",
        "Of the pipe",
        "Fills in",
        `Lost in ${lookEveryH ?? ""} h`,
        "Price",
      ]}
      rows={(told?.choices ?? []).map((one) => ({
        key: one.product.product_id,
        marked: one.product.product_id === outlet.valve.product,
        cells: [
          one.product.name,
          <StandingMark
            key="opens"
            standing={one.opens_surely ? "fine" : one.opens ? "watch" : "stop"}
            size={10}
          />,
          <StandingMark key="shuts" standing={one.shuts ? "fine" : "stop"} size={10} />,
          <>
            {say(one.flow_lpm, "L/min", "")}{" "}
            {told && told.wanted_lpm !== null && (
              <StandingMark standing={one.flow_lpm >= told.wanted_lpm ? "fine" : "fix"} size={10} />
            )}
          </>,
          one.share === null ? "" : `${Math.round(100 * one.share)} %`,
          say(one.fills_min, "min", "never"),
          <>
            {say(one.lost_l, "L", "nothing")}
            {one.empties_min !== null && one.empties_min < 60 * (lookEveryH ?? NaN) ? ", all" : ""}
          </>,
          priceText(one.price, told?.currency ?? ""),
        ],
        onTry: () => {
          onTry(patched(document, one.patch), `${one.product.name} at ${named(outlet)}`);
          onLeave();
        },
      }))}
      onLeave={onLeave}
    >
      <Caution>
        {(document.herds ?? []).length > 0
          ? "Animals die within days without water: whatever valve it is, look daily, and keep two days in hand that one stuck valve cannot empty."
          : "Whatever valve it is, it may stick open: look daily."}
      </Caution>
    </SideBySide>
  );
}
