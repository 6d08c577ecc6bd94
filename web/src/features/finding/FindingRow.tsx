import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import { useId, useState } from "react";

import type { Finding, Remedy } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { priceText, shortPrice } from "../../shared/price";
import { Said } from "../../shared/Said";
import { saidText } from "../../shared/saidText";
import { StandingMark, STANDING_INK } from "../../shared/StandingMark";
import { useTried, type Try } from "./useTried";

export interface RowProps {
  finding: Finding;
  /** what is said of it while it has no words of its own */
  title: string;
  currency: string;
  onRemedy: (remedy: Remedy) => void;
  onShow: (where: string) => void;
  onTry: Try | null;
}

/** One finding in one line, with the best fix as a button; opened, the reason and the other fixes. */
export function FindingRow({ finding, title, currency, onRemedy, onShow, onTry }: RowProps) {
  const id = useId();
  const [open, setOpen] = useState(false);
  const tried = useTried(finding, onTry);
  const remedies = finding.remedies ?? tried.remedies;
  const best = remedies?.[0];
  return (
    <Box
      component="article"
      data-testid={`finding-${finding.code}`}
      sx={{
        borderBottom: `1px solid ${ink("rule")}`,
        borderLeft: `4px solid ${open ? ink(STANDING_INK[finding.severity]) : "transparent"}`,
        fontSize: 13,
        lineHeight: 1.35,
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 2, py: 1, pr: 1 }}>
        <ButtonBase
          aria-expanded={open}
          aria-controls={id}
          onClick={() => {
            setOpen(!open);
            onShow(finding.where);
          }}
          sx={{
            flex: 1,
            minWidth: 0,
            minHeight: { xs: 44, md: 32 },
            pl: 1.5,
            display: "flex",
            gap: 2,
            justifyContent: "flex-start",
            textAlign: "left",
            font: "inherit",
          }}
        >
          <Box component="span" sx={{ flexShrink: 0, lineHeight: 0 }}>
            <StandingMark standing={finding.severity} />
          </Box>
          <Box component="span" sx={open ? { fontWeight: 700 } : THREE_LINES}>
            <Said words={finding.headline_words.length ? finding.headline_words : [title]} />
          </Box>
        </ButtonBase>
        {best && <FixButton remedy={best} currency={currency} onFix={() => onRemedy(best)} />}
        {!remedies && onTry && (
          <Button variant="outlined" sx={FIX} onClick={tried.stop ?? tried.start}>
            {tried.stop ? "Stop" : (tried.trouble ?? "Find fixes")}
          </Button>
        )}
      </Box>
      {open && (
        <Box id={id} sx={{ pl: 1.5, pr: 1, pb: 2 }}>
          <Box>
            <Said words={finding.why_words} />
          </Box>
          {!remedies && (!onTry || tried.stop) && (
            <Box sx={{ color: ink("faint"), mt: 1 }}>Looking for fixes …</Box>
          )}
          {tried.remedies?.length === 0 && (
            <Box sx={{ color: ink("faint"), mt: 1 }}>
              None of the fixes that were tried helps: Options tries more.
            </Box>
          )}
          {remedies && remedies.length > 0 && (
            <Box sx={{ color: ink("faint"), mt: 1 }}>
              Suggested fixes, best value first
              {remedies.every((remedy) => remedy.enough === false) &&
                " (none of them is enough by itself: Options finds the cheapest change that is)"}
              :
              {remedies.map((remedy) => (
                <Button
                  key={remedy.text}
                  variant="text"
                  onClick={() => onRemedy(remedy)}
                  sx={{
                    display: "block",
                    textAlign: "left",
                    p: 0,
                    minHeight: { xs: 44, md: 24 },
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
      )}
    </Box>
  );
}

const FIX = { flexShrink: 0, minWidth: 0, minHeight: { xs: 44, md: 30 }, px: 2, py: 0, fontSize: 12.5 };
const THREE_LINES = {
  display: "-webkit-box",
  WebkitLineClamp: 3,
  WebkitBoxOrient: "vertical",
  overflow: "hidden",
} as const;

/** The best fix, by its price; what it is and does is told before it is chosen. */
function FixButton({ remedy, currency, onFix }: { remedy: Remedy; currency: string; onFix: () => void }) {
  const system = usePreferences((state) => state.system);
  const said = `${saidText(remedy.text_words, system)}: ${saidText(remedy.effect_words, system)}`;
  const price = shortPrice(remedy.price, currency);
  const text = price ? `Fix · ${price}` : "Fix";
  return (
    <Button variant="outlined" sx={FIX} title={said} aria-label={`${text}: ${said}`} onClick={onFix}>
      {text}
    </Button>
  );
}
