import Box from "@mui/material/Box";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";
import { useId, type ReactNode } from "react";

import { ink } from "../../app/theme";
import type { Side } from "./store";

/** What is chosen on the plan, with all its fields. */
export interface Details {
  title: string;
  content: ReactNode;
}

interface Props {
  side: Side;
  onSide: (side: Side) => void;
  /** null in views that choose nothing */
  details: Details | null;
  findings: ReactNode;
  count: number | null;
  /** drawn above the findings */
  soundings: ReactNode;
  /** what is said here is of an earlier plan */
  old: boolean;
}

/** The right-hand column: the part that is chosen at full height; one tab away, where the pressure goes and the findings. */
export function SideColumn({ side, onSide, details, findings, count, soundings, old }: Props) {
  const id = useId();
  const shown = details ? side : "findings";
  return (
    <Box
      component="aside"
      aria-label="Details and findings"
      sx={{
        gridArea: "side",
        borderLeft: `1px solid ${ink("rule")}`,
        bgcolor: ink("paper"),
        minHeight: 0,
        display: "flex",
        flexDirection: "column",
        "@media print": { display: "block", borderLeft: 0 },
      }}
    >
      {details && (
        <Tabs
          value={shown}
          onChange={(_, next: Side) => onSide(next)}
          aria-label="Details or findings"
          className="not-printed"
          sx={{
            minHeight: { xs: 44, md: 40 },
            flexShrink: 0,
            borderBottom: `1px solid ${ink("rule")}`,
            "& .MuiTab-root": {
              minHeight: { xs: 44, md: 40 },
              py: 0,
              textTransform: "none",
              fontWeight: 700,
            },
            "& .MuiTab-root:focus-visible": { outlineOffset: -3 },
          }}
        >
          <Tab value="details" label={details.title} id={`${id}-details`} aria-controls={`${id}-panel`} />
          <Tab
            value="findings"
            label={count === null ? "Findings" : `Findings ${count}`}
            id={`${id}-findings`}
            aria-controls={`${id}-panel`}
          />
        </Tabs>
      )}
      <Box
        id={`${id}-panel`}
        tabIndex={-1}
        data-side={shown}
        {...(details ? { role: "tabpanel", "aria-labelledby": `${id}-${shown}` } : {})}
        sx={{ flex: 1, minHeight: 0, "@media print": { "& > *": { overflow: "visible" } } }}
      >
        {shown === "details" && details ? (
          <Box sx={{ height: "100%", bgcolor: ink("sheet") }}>{details.content}</Box>
        ) : (
          <Box
            sx={{
              height: "100%",
              display: "grid",
              gridTemplateRows: soundings
                ? { xs: "270px auto", md: "minmax(270px, 42%) minmax(0, 1fr)" }
                : "minmax(0, 1fr)",
              minHeight: 0,
              opacity: old ? 0.5 : 1,
              "@media print": { display: "block", "& > *": { overflow: "visible", breakInside: "avoid" } },
            }}
          >
            {soundings}
            <Box sx={{ overflowY: "auto", ...(soundings ? { borderTop: `1px solid ${ink("rule")}` } : {}) }}>
              {findings}
            </Box>
          </Box>
        )}
      </Box>
    </Box>
  );
}
