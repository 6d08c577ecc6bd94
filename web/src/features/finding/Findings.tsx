import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { memo, useEffect, useRef, useState, type MouseEvent } from "react";

import type { Analysis, Finding, Remedy } from "../../api/types";
import { ink } from "../../app/theme";
import { priceText } from "../../shared/price";
import { Said } from "../../shared/Said";
import { StandingMark, STANDING_INK } from "../../shared/StandingMark";

interface Props {
  analysis: Analysis;
  /** the same findings, with remedies once they are known */
  findings: Finding[];
  /** every check was made: no more are to come */
  complete: boolean;
  /** what prices are in */
  currency: string;
  onRemedy: (remedy: Remedy) => void;
  onShow: (where: string) => void;
  /** tries what would help against one finding; null where all of it is tried by itself */
  onTry: Try | null;
}

/** Of more findings than these the worst are shown, the others when they are asked for. */
const FIRST_SHOWN = 20;

type Try = (finding: Finding, signal: AbortSignal) => Promise<Remedy[]>;

/** What will go wrong, worst first, with the changes that were tried and found to help. */
export const Findings = memo(function Findings({
  analysis,
  findings,
  complete,
  currency,
  onRemedy,
  onShow,
  onTry,
}: Props) {
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(false);
  const shown = all ? findings : findings.slice(0, FIRST_SHOWN);
  const { checked, check_titles: titles } = analysis;
  const failed = new Set(findings.map((finding) => finding.code));
  return (
    <Box component="section" aria-label="Findings" sx={{ px: 3, pb: 3 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 2, pt: 2, pb: 1 }}>
        <Typography variant="h2">
          {findings.length === 0
            ? complete
              ? "Nothing found"
              : "Checking …"
            : findings.length === 1
              ? "1 finding"
              : `${findings.length} findings`}
          {findings.length > 0 && !complete && " so far"}
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
      {shown.map((finding) => (
        <FindingCard
          title={titles[finding.code] ?? ""}
          key={`${finding.code}-${finding.where}`}
          finding={finding}
          currency={currency}
          onRemedy={onRemedy}
          onShow={onShow}
          onTry={onTry}
        />
      ))}
      {findings.length > FIRST_SHOWN && (
        <Button variant="outlined" onClick={() => setAll(!all)} aria-expanded={all}>
          {all
            ? `Only the ${FIRST_SHOWN} worst`
            : `These are the ${FIRST_SHOWN} worst: show all ${findings.length}`}
        </Button>
      )}
    </Box>
  );
});

type CardProps = Pick<Props, "currency" | "onRemedy" | "onShow" | "onTry"> & {
  finding: Finding;
  /** what is said of it while it has no words of its own */
  title: string;
};

function FindingCard({ finding, title, currency, onRemedy, onShow, onTry }: CardProps) {
  const tried = useTried(finding, onTry);
  const remedies = finding.remedies ?? tried.remedies;
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
        <StandingMark standing={finding.severity} />{" "}
        <Said words={finding.headline_words.length ? finding.headline_words : [title]} />
      </Box>
      <Box>
        <Said words={finding.why_words} />
      </Box>
      {finding.remedies === null && !remedies && (!onTry || tried.stop) && (
        <Box sx={{ color: ink("faint"), mt: 1 }}>Trying what would help …</Box>
      )}
      {!remedies && onTry && (
        <Button variant="text" sx={{ p: 0 }} onClick={aside(tried.stop ?? tried.start)}>
          {tried.stop ? "Stop" : (tried.trouble ?? "Try what would help")}
        </Button>
      )}
      {tried.remedies?.length === 0 && (
        <Box sx={{ color: ink("faint"), mt: 1 }}>Nothing that was tried helps.</Box>
      )}
      {remedies && remedies.length > 0 && (
        <Box sx={{ color: ink("faint"), mt: 1 }}>
          Tried, and it helps; best value first
          {remedies.every((remedy) => remedy.enough === false) && " (none of these is enough by itself)"}:
          {remedies.map((remedy) => (
            <Button
              key={remedy.text}
              variant="text"
              onClick={aside(() => onRemedy(remedy))}
              sx={{
                display: "block",
                textAlign: "left",
                p: 0,
                lineHeight: 1.5,
                fontWeight: 400,
                textDecoration: "underline",
              }}
            >
              <Said words={remedy.text_words} />: <Said words={remedy.effect_words} />
              <Box component="span" sx={{ color: ink("faint"), display: "inline-block", pl: 1 }}>
                · {priceText(remedy.price, currency)}
              </Box>
            </Button>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Does what a button of a card says, and not also what a click on the card does. */
const aside = (act: () => void) => (event: MouseEvent) => {
  event.stopPropagation();
  act();
};

interface Tried {
  remedies: Remedy[] | null;
  trouble: string | null;
  start: () => void;
  stop: (() => void) | null;
}

/** What was tried against a finding; of an older finding nothing is kept, and the server stops trying. */
function useTried(finding: Finding, onTry: Try | null): Tried {
  const [told, setTold] = useState<{ of: Finding; remedies: Remedy[] | null; trouble: string | null } | null>(
    null,
  );
  const trying = useRef<AbortController | null>(null);
  useEffect(() => () => trying.current?.abort(), [finding]);
  const own = told?.of === finding ? told : null;
  const start = () => {
    if (!onTry) return;
    const asking = (trying.current = new AbortController());
    setTold({ of: finding, remedies: null, trouble: null });
    onTry(finding, asking.signal)
      .then((remedies) => setTold({ of: finding, remedies, trouble: null }))
      .catch(() => {
        const trouble = asking.signal.aborted ? null : "No answer: try again";
        setTold((now) => (now?.of !== finding ? now : trouble ? { ...now, trouble } : null));
      });
  };
  const busy = own !== null && own.remedies === null && own.trouble === null;
  return {
    remedies: own?.remedies ?? null,
    trouble: own?.trouble ?? null,
    start,
    stop: busy ? () => trying.current?.abort() : null,
  };
}
