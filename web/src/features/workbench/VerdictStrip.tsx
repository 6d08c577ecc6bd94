import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useTheme } from "@mui/material/styles";
import { memo, useId, useState } from "react";

import type { Analysis } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { Said } from "../../shared/Said";
import { saidText } from "../../shared/saidText";
import { StandingMark, STANDING_INK } from "../../shared/StandingMark";
import { quantityText } from "../../shared/units";

type VerdictNumber = Analysis["verdict"]["numbers"][number];

interface Props {
  verdict: Analysis["verdict"];
  /** the numbers are of an earlier plan */
  behind: boolean;
  /** that has lasted so long that they are shown as old */
  old: boolean;
  onShow: (key: string, where: string | null) => void;
}

const HEIGHT = 76; // as high whatever it says: the map below never jumps
const CELL = { px: 3, py: 1.25, borderRight: `1px solid ${ink("rule")}`, minWidth: 0 };
const LINES = (count: number) =>
  ({
    display: "-webkit-box",
    WebkitLineClamp: count,
    WebkitBoxOrient: "vertical",
    overflow: "hidden",
  }) as const;

/** One plain sentence, then four numbers, each with its target; on a phone one line that opens. */
export const VerdictStrip = memo(function VerdictStrip({ verdict, behind, old, onShow }: Props) {
  const id = useId();
  const narrow = useMediaQuery(useTheme().breakpoints.down("md"));
  const system = usePreferences((state) => state.system);
  const [open, setOpen] = useState(false);
  const sentence = (
    <Box
      component="span"
      data-testid="verdict"
      aria-live="polite"
      title={saidText(verdict.sentence, system)}
      sx={{
        fontSize: { xs: 15, md: 17 },
        fontWeight: 700,
        lineHeight: 1.25,
        ...LINES(narrow && !open ? 1 : 2),
      }}
    >
      <StandingMark standing={verdict.standing} size={14} /> <Said words={verdict.sentence} />
    </Box>
  );
  return (
    <Box
      component="section"
      aria-label="Verdict"
      aria-busy={behind}
      data-old={old}
      sx={{
        gridArea: "strip",
        height: { md: HEIGHT },
        display: "grid",
        gridTemplateColumns: {
          xs: "1fr 1fr",
          md: "minmax(0, 1.75fr) minmax(0, 1.35fr) repeat(3, minmax(0, 1fr))",
        },
        bgcolor: ink("paper"),
        borderBottom: `1px solid ${ink("rule")}`,
        "@media print": { height: "auto" },
      }}
    >
      {narrow ? (
        <ButtonBase
          aria-expanded={open}
          aria-controls={id}
          onClick={() => setOpen(!open)}
          sx={{
            gridColumn: "1 / -1",
            minHeight: 44,
            px: 3,
            gap: 2,
            font: "inherit",
            textAlign: "left",
            justifyContent: "space-between",
          }}
        >
          {sentence}
          <span aria-hidden>{open ? "▴" : "▾"}</span>
        </ButtonBase>
      ) : (
        <Box sx={CELL}>
          <Box sx={{ fontSize: 12, color: ink("faint") }}>
            {old ? "Calculating … last valid values" : "Will it run?"}
          </Box>
          {sentence}
        </Box>
      )}
      {(!narrow || open) && (
        <Box id={id} sx={{ display: "contents", "& > *": { opacity: old ? 0.5 : 1 } }}>
          {verdict.numbers.map((number) => (
            <OneNumber key={number.key} number={number} onShow={onShow} />
          ))}
        </Box>
      )}
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
      <Box sx={{ fontSize: 12, color: ink("faint"), ...LINES(1) }}>
        <Said words={number.title} />
      </Box>
      <Box
        sx={{
          fontSize: 20,
          fontWeight: 700,
          lineHeight: 1.25,
          color: ink(STANDING_INK[number.standing]),
          whiteSpace: "nowrap",
        }}
      >
        <StandingMark standing={number.standing} />{" "}
        {number.value ? quantityText(number.value, system) : number.instead}
      </Box>
      <Box sx={{ fontSize: 12, lineHeight: 1.25, ...LINES(1) }} title={saidText(number.wanted, system)}>
        <Said words={number.wanted} />
      </Box>
    </ButtonBase>
  );
});
