import { useQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";

import { comparePipes, editDesign } from "../../api/client";
import type { Catalogue, Design } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { whatIsWrong } from "../../shared/faults";
import { named } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { StandingMark } from "../../shared/StandingMark";
import { figure, quantityText, shownUnit, toShown } from "../../shared/units";
import { SideBySide } from "./SideBySide";

interface Props {
  document: Design;
  index: number;
  catalogue: Catalogue | undefined;
  onTry: (document: Design, text: string) => void;
  onLeave: () => void;
}

const ALL = "all kinds";

/** The pipes that a line could be laid in: bore, class, price, and what each does to the worst outlet. */
export function PipeChoices({ document, index, catalogue, onTry, onLeave }: Props) {
  const system = usePreferences((state) => state.system);
  const line = document.lines?.[index];
  const own = (catalogue?.pipes ?? []).filter((pipe) => pipe.own).map((pipe) => pipe.product);
  const asked = useQuery({
    queryKey: ["pipes", document, line?.id],
    queryFn: ({ signal }) => comparePipes(document, line?.id ?? "", own, signal),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });
  const now = catalogue?.pipes.find((pipe) => pipe.id === line?.product);
  const [family, setFamily] = useState(now?.family ?? ALL);
  const [trouble, setTrouble] = useState<string | null>(null);
  if (!line) return null;
  const told = asked.data;
  const families = [...new Set((told?.choices ?? []).map((one) => one.product.family))];
  const listed = (told?.choices ?? []).filter((one) => family === ALL || one.product.family === family);
  const flow = (lpm: number) => quantityText({ value: lpm, unit: "L/min" }, system);
  const bore = (mm: number) =>
    `${figure(toShown(mm, "mm", system), system === "metric" ? 1 : 3)} ${shownUnit("mm", system)}`;
  return (
    <SideBySide
      title={`Pipes for ${named(line)}`}
      about={
        told && (
          <>
            With all running{" "}
            {told.outlets
              .map(
                ({ name, flow_lpm, wanted_lpm }) =>
                  `${name} gets ${flow(flow_lpm)} now${wanted_lpm === null ? "" : `, ${flow(wanted_lpm)} wanted`}`,
              )
              .join("; ")}
            . Prices are typical; type what your shop asks in the catalogue.
          </>
        )
      }
      instead={
        trouble ?? (asked.isError ? whatIsWrong(asked.error) : told ? null : "Calculating each of them …")
      }
      head={[
        "Pipe",
        "Bore",
        "Rated pressure",
        `For ${quantityText({ value: line.length_m ?? 0, unit: "m" }, system)}`,
        ...(told?.outlets ?? []).map((one) => one.name),
      ]}
      rows={listed.map((one) => ({
        key: one.product.product_id,
        marked: one.product.product_id === line.product && line.bore_mm === undefined,
        cells: [
          one.product.name,
          bore(one.bore_mm),
          <>
            {one.limit_kpa === null
              ? "not known"
              : quantityText({ value: one.limit_kpa, unit: "kPa" }, system)}{" "}
            <StandingMark standing={one.holds === null ? "unknown" : one.holds ? "fine" : "stop"} size={10} />
          </>,
          priceText(one.price, told?.currency ?? ""),
          ...one.flows_lpm.map((lpm, number) => {
            const wanted = told?.outlets[number]?.wanted_lpm ?? null;
            return (
              <Fragment key={number}>
                {flow(lpm)}{" "}
                <StandingMark
                  standing={wanted === null ? "unknown" : lpm >= wanted ? "fine" : "fix"}
                  size={10}
                />
              </Fragment>
            );
          }),
        ],
        onTry: () => {
          void editDesign(document, [{ kind: "set_pipe", line: line.id, product: one.product }])
            .then((edited) => onTry(edited.document, `${named(line)} in ${one.product.name}`))
            .then(onLeave)
            .catch((error: unknown) => setTrouble(whatIsWrong(error)));
        },
      }))}
      onLeave={onLeave}
    >
      <Choice
        label="Kind"
        value={family}
        options={[...new Set([...families, ALL])].map((one) => ({ value: one, text: one }))}
        onChange={setFamily}
      />
    </SideBySide>
  );
}
