import Box from "@mui/material/Box";
import { useEffect, useRef } from "react";
import { NavLink, useParams } from "react-router";

import type { Finding } from "../../api/types";
import { ink } from "../../app/theme";
import { StandingMark } from "../../shared/StandingMark";
import { standingOf, VIEWS } from "./model";

const NEXT_PX = 60; // of the view before the open one, so that it is seen that there are more

/** The order of the job; each view with the mark of its worst finding. */
export function Rail({ designId, findings }: { designId: string; findings: Finding[] | null }) {
  const { view: open } = useParams();
  const rail = useRef<HTMLElement>(null);
  useEffect(() => {
    const [nav, link] = [rail.current, rail.current?.querySelector("a.active")];
    if (nav && link instanceof HTMLElement) nav.scrollLeft = link.offsetLeft - nav.offsetLeft - NEXT_PX; // on a phone
  }, [open]);
  return (
    <Box
      ref={rail}
      component="nav"
      aria-label="The job in order"
      sx={{
        gridArea: "rail",
        displayPrint: "none",
        bgcolor: ink("rail"),
        borderRight: `1px solid ${ink("rule")}`,
        display: "flex",
        flexDirection: { xs: "row", md: "column" },
        overflowX: { xs: "auto", md: "visible" },
        minWidth: 0,
        pt: { md: 2 },
        "& a:focus-visible": { outlineOffset: -3 },
        "& a": {
          display: "flex",
          justifyContent: "space-between",
          alignItems: "center",
          gap: "6px",
          padding: "8px 8px 8px 9px",
          minHeight: 44,
          whiteSpace: "nowrap",
          color: ink("ink"),
          textDecoration: "none",
          borderLeft: "4px solid transparent",
        },
        "& a.active": { fontWeight: 700, backgroundColor: ink("paper"), borderLeftColor: ink("deep") },
      }}
    >
      {VIEWS.map(({ view, title, codes }) => (
        <NavLink key={view} to={`/designs/${designId}/${view}`}>
          {title}
          {codes.length > 0 && (
            <StandingMark standing={findings ? standingOf(findings, codes) : "unknown"} size={11} />
          )}
        </NavLink>
      ))}
    </Box>
  );
}
