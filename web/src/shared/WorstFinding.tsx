import type { ReactNode } from "react";

import type { Finding } from "../api/types";
import { Said } from "./Said";
import { StandingMark } from "./StandingMark";

/** The first, which is the worst, of the findings about a part; where there is none, how it goes. */
export function WorstFinding({ findings, fine }: { findings: Finding[]; fine: string }) {
  const worst = findings[0];
  if (worst) return <Marked standing={worst.severity} text={<Said words={worst.headline_words} />} />;
  return fine ? <Marked standing="fine" text={fine} /> : null;
}

/** A text behind the mark of how it stands. */
export function Marked({ standing, text }: { standing: Finding["severity"] | "fine"; text: ReactNode }) {
  return (
    <span>
      <StandingMark standing={standing} size={11} /> {text}
    </span>
  );
}
