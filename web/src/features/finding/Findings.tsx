import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { memo, useState } from "react";

import type { Analysis, Finding, Remedy } from "../../api/types";
import { ink } from "../../app/theme";
import { StandingMark } from "../../shared/StandingMark";
import { FindingRow } from "./FindingRow";
import type { Try } from "./useTried";

interface Props {
  analysis: Analysis;
  /** the same findings, with remedies once they are known */
  findings: Finding[];
  /** every check was made: no more are to come */
  complete: boolean;
  /** what the view in hand is called, and the codes of findings that it is about; these come first */
  view: { title: string; codes: string[] } | null;
  /** what prices are in */
  currency: string;
  onRemedy: (remedy: Remedy) => void;
  onShow: (where: string) => void;
  /** tries what would help against one finding; null where all of it is tried by itself */
  onTry: Try | null;
}

/** Of more findings than these the worst are shown, the others when they are asked for. */
const FIRST_SHOWN = 20;

/** What will go wrong, worst first, that of the view in hand before the rest. */
export const Findings = memo(function Findings({
  analysis,
  findings,
  complete,
  view,
  currency,
  onRemedy,
  onShow,
  onTry,
}: Props) {
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(false);
  const { checked, check_titles: titles } = analysis;
  const failed = new Set(findings.map((finding) => finding.code));
  const own = view ? findings.filter((finding) => view.codes.includes(finding.code)) : [];
  const rest = view ? findings.filter((finding) => !view.codes.includes(finding.code)) : findings;
  const groups = [
    { title: `About ${view?.title.toLowerCase() ?? ""}`, listed: own },
    { title: own.length ? "Elsewhere" : "", listed: rest },
  ];
  let left = all ? findings.length : FIRST_SHOWN;
  return (
    <Box component="section" aria-label="Findings" sx={{ px: 2, pb: 3 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 2, pt: 2, pl: 1 }}>
        <Typography variant="h2">
          {findings.length === 0
            ? complete
              ? "No findings"
              : "Checking …"
            : findings.length === 1
              ? "1 finding"
              : `${findings.length} findings`}
          {findings.length > 0 && !complete && " so far"}
        </Typography>
        <Button
          variant="text"
          onClick={() => setOpen(!open)}
          aria-expanded={open}
          sx={{ p: 0, minWidth: 0, minHeight: { xs: 44, md: 24 } }}
        >
          {checked.length} checks made
        </Button>
      </Box>
      {open && (
        <Box component="ul" sx={{ m: 0, mb: 2, pl: 1, listStyle: "none", fontSize: 13 }}>
          {checked.map((code) => (
            <li key={code}>
              <StandingMark standing={failed.has(code) ? "fix" : "fine"} size={10} /> {titles[code]}
            </li>
          ))}
        </Box>
      )}
      {groups.map(({ title, listed }) => {
        const shown = listed.slice(0, Math.max(left, 0));
        left -= shown.length;
        if (!shown.length) return null;
        return (
          <Box key={title}>
            {title && (
              <Typography component="h3" sx={{ fontSize: 12, color: ink("faint"), pt: 2, pl: 1 }}>
                {title}
              </Typography>
            )}
            {shown.map((finding) => (
              <FindingRow
                key={`${finding.code}-${finding.where}`}
                title={titles[finding.code] ?? ""}
                {...{ finding, currency, onRemedy, onShow, onTry }}
              />
            ))}
          </Box>
        );
      })}
      {findings.length > FIRST_SHOWN && (
        <Button variant="outlined" onClick={() => setAll(!all)} aria-expanded={all} sx={{ mt: 2 }}>
          {all ? `Only the ${FIRST_SHOWN} worst` : `Show ${findings.length - FIRST_SHOWN} more`}
        </Button>
      )}
    </Box>
  );
});
