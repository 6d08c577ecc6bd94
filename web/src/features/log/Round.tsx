import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { readRound } from "../../api/field";
import { ink } from "../../app/theme";
import { useQueue } from "../../shared/logQueue";
import { agoText } from "./look";

const SOON_D = 2; // less than that is pressing; ours

/** The other plans, those whose water lasts shortest first: where the round goes next. */
export function Round({ designId }: { designId: string }) {
  const taken = useQueue((queue) => queue.taken);
  const read = useQuery({
    queryKey: ["round", taken],
    queryFn: ({ signal }) => readRound(signal),
    networkMode: "always",
    retry: false,
  });
  const others = (read.data?.stops ?? []).filter(({ design_id: id }) => id !== designId);
  if (!others.length) return null;
  return (
    <Box component="section" aria-label="Other plans" sx={{ mt: 4 }}>
      <Typography variant="h2">Other plans, shortest of water first</Typography>
      <Box component="ol" sx={{ listStyle: "none", pl: 0, my: 0 }}>
        {others.map((stop) => (
          <Box component="li" key={stop.design_id} sx={{ borderTop: `1px solid ${ink("rule")}` }}>
            <Box
              component={Link}
              to={`/designs/${stop.design_id}/log?page=look`}
              sx={{ display: "block", py: 2, minHeight: 44, color: ink("ink"), textDecoration: "none" }}
            >
              <strong>
                {stop.site_name} · {stop.name}
              </strong>
              <Box sx={{ color: ink((stop.lasts_days ?? SOON_D) < SOON_D ? "short" : "faint") }}>
                {stop.lasts_days == null
                  ? "how long its water lasts is not known yet"
                  : `${stop.lasts_days < SOON_D ? "■ " : ""}lasts ${stop.lasts_days.toFixed(1)} days with no refill, by the plan`}
                {stop.last_look
                  ? ` · last look ${agoText(stop.last_look, read.dataUpdatedAt)} ago`
                  : " · never looked at"}
              </Box>
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
