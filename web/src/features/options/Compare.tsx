import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Fragment } from "react";

import type { Design, OptionsTold } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { usePreferences } from "../../shared/preferences";
import { TABLE } from "../../shared/rowTable";
import { saidText } from "../../shared/saidText";
import { StandingMark } from "../../shared/StandingMark";
import { useKept } from "../../shared/useKept";
import { SideBySide } from "./SideBySide";
import { useChoices, useChosen, useCompared } from "./useCompared";
import { useTake } from "./useTake";

const MOST_BESIDE = 3;
const CHAPTERS: Record<OptionsTold["rows"][number]["chapter"], string> = {
  cost: "Cost",
  water: "Water",
  year: "A year",
  parts: "Parts",
  findings: "Findings",
};

interface Props {
  document: Design;
  designId: string;
  chosen: string[];
  onChoose: (chosen: string[]) => void;
}

/** Two to four plans side by side, only where they differ; on one scale where the pressure goes. */
export function Compare({ document, designId, chosen, onChoose }: Props) {
  const system = usePreferences((state) => state.system);
  const choices = useChoices(designId, document.site.name);
  const { documents, error } = useChosen(designId, chosen);
  const compared = useCompared(documents.length ? [document, ...documents] : []);
  const shown = useKept(compared);
  const make = useTake(document, (id) =>
    onChoose([...chosen.filter((key) => !key.startsWith("revision")), `plan ${id}`]),
  );
  const left = choices.filter((one) => !chosen.includes(one.value));
  return (
    <section aria-label="Plans side by side">
      <Typography variant="h1" sx={{ mt: 6 }}>
        Plans side by side
      </Typography>
      <Box sx={{ display: "flex", gap: 3, flexWrap: "wrap", alignItems: "end", my: 2 }}>
        {chosen.map((key) => (
          <Button key={key} variant="outlined" onClick={() => onChoose(chosen.filter((one) => one !== key))}>
            {choices.find((one) => one.value === key)?.text ?? "the new plan"} ✕
          </Button>
        ))}
        {chosen.length < MOST_BESIDE && (
          <Box sx={{ width: 320 }}>
            <Choice
              label="Lay beside this plan"
              value=""
              options={[{ value: "", text: "choose a plan or an earlier state …" }, ...left]}
              onChange={(key) => key && onChoose([...chosen, key])}
            />
          </Box>
        )}
        {chosen.some((key) => key.startsWith("revision")) && documents[0] && (
          <Button
            onClick={() => {
              const at = chosen.findIndex((key) => key.startsWith("revision"));
              const revision = documents[at];
              if (revision) make.mutate({ plan: { document: { ...revision } }, name: revision.name });
            }}
          >
            Make a plan of the revision
          </Button>
        )}
      </Box>
      {error && <Typography role="alert">{error.message}</Typography>}
      {chosen.length > 0 && !shown && !error && (
        <Typography role="status">Laying them side by side …</Typography>
      )}
      {shown && chosen.length > 0 && (
        <Box sx={{ opacity: compared ? 1 : 0.6 }} data-testid="compared">
          <Differences told={shown.told} system={system} />
          <SideBySide
            names={shown.told.plans.map((plan) => plan.name)}
            analyses={shown.analyses}
            document={document}
          />
        </Box>
      )}
    </section>
  );
}

function Differences({ told, system }: { told: OptionsTold; system: Parameters<typeof saidText>[1] }) {
  const chapters = [...new Set(told.rows.map((row) => row.chapter))];
  return (
    <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Differences">
      <Box component="table" sx={{ ...TABLE, "& thead th": { verticalAlign: "bottom", minWidth: 150 } }}>
        <thead>
          <tr>
            <th scope="col">{told.alike} more figures are the same</th>
            {told.plans.map((plan, index) => (
              <th key={index} scope="col">
                <Box
                  component="span"
                  sx={{ fontSize: 15, fontWeight: 700, color: ink("ink"), display: "flex", gap: 2 }}
                >
                  <StandingMark standing={plan.standing} size={12} />
                  {index === 0 ? `This plan: ${plan.name}` : plan.name}
                </Box>
                <span style={{ color: ink("ink") }}>{saidText(plan.sentence, system)}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {chapters.map((chapter) => (
            <Fragment key={chapter}>
              <tr className="shop">
                <th scope="rowgroup" colSpan={told.plans.length + 1}>
                  {CHAPTERS[chapter]}
                </th>
              </tr>
              {told.rows
                .filter((row) => row.chapter === chapter)
                .map((row, number) => (
                  <tr key={number}>
                    <th scope="row">{row.about}</th>
                    {row.cells.map((cell, column) => (
                      <td key={column} style={row.best === column ? { fontWeight: 700 } : undefined}>
                        {saidText(cell, system)}
                        {row.best === column && chapter !== "findings" && (
                          <span className="aside" style={{ color: ink("deep") }}>
                            best
                          </span>
                        )}
                      </td>
                    ))}
                  </tr>
                ))}
            </Fragment>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
