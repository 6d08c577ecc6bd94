import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { memo, useState } from "react";

import type { Analysis, Finding, Remedy } from "../../api/types";
import { ink } from "../../app/theme";
import { Said } from "../../shared/Said";
import { StandingMark, STANDING_INK } from "../../shared/StandingMark";

interface Props {
  analysis: Analysis;
  /** the same findings, with remedies once they are known */
  findings: Finding[];
  onRemedy: (remedy: Remedy) => void;
  onShow: (where: string) => void;
}

/** What will go wrong, worst first, with the changes that were tried and found to help. */
export const Findings = memo(function Findings({ analysis, findings, onRemedy, onShow }: Props) {
  const [open, setOpen] = useState(false);
  const { checked, check_titles: titles } = analysis;
  const failed = new Set(findings.map((finding) => finding.code));
  return (
    <Box component="section" aria-label="Findings" sx={{ px: 3, pb: 3 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 2, pt: 2, pb: 1 }}>
        <Typography variant="h2">
          {findings.length === 0
            ? "Nothing found"
            : findings.length === 1
              ? "1 finding"
              : `${findings.length} findings`}
        </Typography>
        <Button variant="text" onClick={() => setOpen(!open)} aria-expanded={open} sx={{ p: 0, minWidth: 0 }}>
          {checked.length} checks made
        </Button>
      </Box>
      {open && (
        <Box component="ul" sx={{ m: 0, mb: 2, pl: 0, listStyle: "none", fontSize: 13 }}>
          {checked.map((code) => (
            <li key={code}>
              <StandingMark standing={failed.has(code) ? "fix" : "fine"} size={10} /> {titles[code]}
            </li>
          ))}
        </Box>
      )}
      {findings.map((finding) => (
        <FindingCard
          key={`${finding.code}-${finding.where}`}
          finding={finding}
          onRemedy={onRemedy}
          onShow={onShow}
        />
      ))}
    </Box>
  );
});

interface CardProps {
  finding: Finding;
  onRemedy: (remedy: Remedy) => void;
  onShow: (where: string) => void;
}

function FindingCard({ finding, onRemedy, onShow }: CardProps) {
  return (
    <Box
      component="article"
      data-testid={`finding-${finding.code}`}
      onClick={() => onShow(finding.where)}
      sx={{
        border: `1px solid ${ink("rule")}`,
        borderLeft: `4px solid ${ink(STANDING_INK[finding.severity])}`,
        bgcolor: ink("paper"),
        px: 2.5,
        py: 1.5,
        mb: 2,
        fontSize: 13,
        lineHeight: 1.4,
      }}
    >
      <Box sx={{ fontWeight: 700 }}>
        <StandingMark standing={finding.severity} /> <Said words={finding.headline_words} />
      </Box>
      <Box>
        <Said words={finding.why_words} />
      </Box>
      {finding.remedies === null && <Box sx={{ color: ink("faint"), mt: 1 }}>Trying what would help …</Box>}
      {finding.remedies && finding.remedies.length > 0 && (
        <Box sx={{ color: ink("faint"), mt: 1 }}>
          Tried, and it helps:
          {finding.remedies.map((remedy) => (
            <Button
              key={remedy.text}
              variant="text"
              onClick={(event) => {
                event.stopPropagation();
                onRemedy(remedy);
              }}
              sx={{
                display: "block",
                textAlign: "left",
                p: 0,
                lineHeight: 1.5,
                fontWeight: 400,
                textDecoration: "underline",
              }}
            >
              {remedy.text}: <Said words={remedy.effect_words} />
            </Button>
          ))}
        </Box>
      )}
    </Box>
  );
}
