import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";

import { memo } from "react";

import type { Analysis } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { Said } from "../../shared/Said";
import { StandingMark, STANDING_INK } from "../../shared/StandingMark";
import { quantityText } from "../../shared/units";

type VerdictNumber = Analysis["verdict"]["numbers"][number];

interface Props {
  verdict: Analysis["verdict"];
  behind: boolean;
  onShow: (key: string, where: string | null) => void;
}

const CELL = { px: 3, py: 1.5, borderRight: `1px solid ${ink("rule")}`, minWidth: 0 };

/** One plain sentence, then four numbers, each with what was wanted of it. */
export const VerdictStrip = memo(function VerdictStrip({ verdict, behind, onShow }: Props) {
  return (
    <Box
      component="section"
      aria-label="Verdict"
      aria-busy={behind}
      sx={{
        gridArea: "strip",
        display: "grid",
        gridTemplateColumns: { xs: "1fr 1fr", md: "minmax(0, 2.1fr) repeat(4, minmax(0, 1fr))" },
        bgcolor: ink("paper"),
        borderBottom: `1px solid ${ink("rule")}`,
      }}
    >
      <Box sx={{ ...CELL, gridColumn: { xs: "1 / -1", md: "auto" } }}>
        <Box sx={{ fontSize: 12, color: ink("faint") }}>Will it run?</Box>
        <Box
          data-testid="verdict"
          aria-live="polite"
          sx={{ fontSize: 17, fontWeight: 700, lineHeight: 1.25 }}
        >
          <StandingMark standing={verdict.standing} size={14} /> <Said words={verdict.sentence} />
        </Box>
      </Box>
      {verdict.numbers.map((number) => (
        <OneNumber key={number.key} number={number} onShow={onShow} />
      ))}
    </Box>
  );
});

/** Of the four mostly one changes at a time. */
const OneNumber = memo(function OneNumber({
  number,
  onShow,
}: { number: VerdictNumber } & Pick<Props, "onShow">) {
  const system = usePreferences((state) => state.system);
  return (
    <ButtonBase
      onClick={() => onShow(number.key, number.where)}
      data-testid={`number-${number.key}`}
      sx={{
        ...CELL,
        display: "flex",
        flexDirection: "column",
        alignItems: "stretch",
        justifyContent: "flex-start",
        textAlign: "left",
        font: "inherit",
      }}
    >
      <Box
        sx={{
          fontSize: 12,
          color: ink("faint"),
          overflow: "hidden",
          textOverflow: "ellipsis",
          whiteSpace: "nowrap",
        }}
      >
        <Said words={number.title} />
      </Box>
      <Box
        sx={{
          fontSize: 20,
          fontWeight: 700,
          color: ink(STANDING_INK[number.standing]),
          whiteSpace: "nowrap",
        }}
      >
        <StandingMark standing={number.standing} />{" "}
        {number.value ? quantityText(number.value, system) : number.instead}
      </Box>
      <Box sx={{ fontSize: 12, lineHeight: 1.25 }}>
        <Said words={number.wanted} />
      </Box>
    </ButtonBase>
  );
});
