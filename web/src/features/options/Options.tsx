import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { PageBar } from "../../shared/PageBar";
import { Compare } from "./Compare";
import { Curve } from "./Curve";
import { MayChoose } from "./MayChoose";
import { Required } from "./Required";
import { Running } from "./Running";
import { Siting } from "./Siting";
import { SizedTable } from "./SizedTable";
import { Stand } from "./Stand";
import { useSizing } from "./useSizing";
import { useTake } from "./useTake";

export interface OptionsProps {
  document: Design;
  designId: string;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  /** put another document in the place of the plan's, as one step of undo */
  replace: (document: Design) => void;
  onShow: (id: string) => void;
}

const PAGES = [
  { value: "sizes", text: "Cheapest plan" },
  { value: "places", text: "Where it stands" },
] as const;

type Page = (typeof PAGES)[number]["value"];

/** The cheapest plan that works, what more flow costs, and plans side by side. */
export function Options(props: OptionsProps) {
  const { document, replace } = props;
  const sizing = useSizing("size", document);
  const curve = useSizing("curve", document);
  const [chosen, setChosen] = useState<string[]>([]);
  const choose = (key: string) =>
    setChosen((before) => [...before.filter((one) => one !== key), key].slice(-3));
  const take = useTake(document, (id) => choose(`plan ${id}`));
  const [page, setPage] = useState<Page>("sizes");
  return (
    <>
      <PageBar<Page> page={page} pages={PAGES} onChange={setPage} />
      <Box sx={{ p: { xs: 3, md: 4 }, maxWidth: 1500 }}>
        {page === "places" ? (
          <Siting
            document={document}
            replace={replace}
            onTake={(plan, called) => take.mutate({ plan, name: `${document.name} · ${called}` })}
          />
        ) : (
          <Box
            sx={{
              display: "grid",
              gap: { xs: 4, lg: 8 },
              gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 400px" },
            }}
          >
            <section aria-label="Cheapest plan">
              <Typography variant="h1">The cheapest plan that gives what is required</Typography>
              <Typography sx={{ color: ink("faint"), maxWidth: 700, my: 1 }}>
                Every float runs freely; no pipe above its rating, no water faster than 3 m/s, no high point
                in suction. Prices are those of the price book (Parts, Costs), else of the catalogue; what is
                in the shed costs nothing.
              </Typography>
              <Running
                of={sizing}
                text={sizing.told ? "Size it again" : "Size this plan"}
                doing="Trying plans …"
              />
              {sizing.told && (
                <SizedTable
                  plan={sizing.told}
                  isFinal={sizing.progress === null}
                  document={document}
                  edit={props.edit}
                  onShow={props.onShow}
                  onUse={(plan) => replace(plan.document as unknown as Design)}
                  onTake={(plan) => take.mutate({ plan, name: `${document.name} · cheapest` })}
                />
              )}
              <Typography variant="h2" sx={{ mt: 5 }}>
                What more flow costs
              </Typography>
              <Running of={curve} text="Draw the curve" doing="Sizing for more and more flow …" />
              {curve.told && (
                <Curve
                  curve={curve.told}
                  onTake={(plan, called) => take.mutate({ plan, name: `${document.name} · ${called}` })}
                />
              )}
              <Stand
                document={document}
                onTake={(plan, called) => take.mutate({ plan, name: `${document.name} · ${called}` })}
              />
            </section>
            <div>
              <Required {...props} plan={sizing.told} />
              <MayChoose {...props} />
            </div>
          </Box>
        )}
        {take.error && <Typography role="alert">{take.error.message}</Typography>}
        <Compare {...props} chosen={chosen} onChoose={setChosen} />
      </Box>
    </>
  );
}
