import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Design, SeasonRun } from "../../api/types";
import { ink } from "../../app/theme";
import { csvText } from "../../shared/csv";
import { download } from "../../shared/download";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { StandingMark } from "../../shared/StandingMark";
import { figure, quantityText } from "../../shared/units";
import { CurvePicture } from "./CurvePicture";
import { seasonRows } from "./season";
import { Weather } from "./Weather";

interface Props {
  document: Design;
  season: SeasonRun | null;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** The store through the season: how many days are met, the gaps, and what would close them. */
export function Season({ document, season, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  return (
    <>
      {season && (
        <Button
          onClick={() =>
            download(
              csvText(seasonRows(document, season, system)),
              "text/csv",
              `${document.site.name} season`,
              "csv",
            )
          }
        >
          Download CSV
        </Button>
      )}
      <Weather document={document} edit={edit} onDone={onDone} />
      {document.season && !season && <Typography color="text.secondary">Calculating the season …</Typography>}
      {season && <Told season={season} document={document} edit={edit} onDone={onDone} />}
      {season && (
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" }, gap: 5, mt: 3 }}>
          <CurvePicture season={season} />
          <Sizes season={season} />
        </Box>
      )}
    </>
  );
}

function Told({ season, document, edit, onDone }: Omit<Props, "season"> & { season: SeasonRun }) {
  const { cautious, hopeful } = season;
  const short = Math.round((1 - cautious.days_share) * season.days);
  const best = Math.round((1 - hopeful.days_share) * season.days);
  const met = cautious.days_share >= season.wanted_share;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 170px" }, gap: 4, mb: 2 }}>
      <Typography component="p" data-testid="season-told">
        <StandingMark standing={met ? "fine" : cautious.days_share < 0.9 ? "stop" : "fix"} size={12} />{" "}
        {season.system && `${season.system}. `}
        {short === 0
          ? `All ${season.days} days have enough.`
          : `On ${short} of ${season.days} days there is not enough${best === short ? "" : ` (${best} if water can be used on the day it comes)`}; the longest gap lasts ${cautious.longest_gap_d} days.`}{" "}
        {figure(100 * cautious.volume_share, 1)} % of all that is needed is there. Counted cautiously: what
        comes in on a day can be used the next.
      </Typography>
      <QuantityField
        label="Days with enough, target, %"
        family="count"
        digits={1}
        value={100 * (document.season?.wanted_share ?? 0.99)}
        hint={document.season?.wanted_share == null ? "assumed, please check" : undefined}
        onDone={onDone}
        onChange={(value) =>
          edit("season.share", (draft) => {
            if (draft.season) draft.season.wanted_share = Math.min(99.99, Math.max(0.1, value)) / 100;
          })
        }
      />
    </Box>
  );
}

/** What meets which share of days: a store, a roof, or another source, each by itself. */
function Sizes({ season }: { season: SeasonRun }) {
  const system = usePreferences((state) => state.system);
  const none = "–";
  return (
    <Box
      component="table"
      data-testid="season-sizes"
      sx={{
        fontSize: 13,
        borderCollapse: "collapse",
        alignSelf: "start",
        "& th, & td": { textAlign: "right", fontWeight: 400, py: 0.5, pl: 4 },
        "& th:first-of-type": { textAlign: "left", pl: 0 },
        "& thead": { color: ink("faint") },
        "& tbody tr": { borderTop: `1px solid ${ink("rule")}` },
      }}
    >
      <thead>
        <tr>
          <th scope="col">To meet</th>
          <th scope="col">store in all</th>
          <th scope="col">or roof in all</th>
          <th scope="col">or more, all year</th>
        </tr>
      </thead>
      <tbody>
        {season.sizes.map((one) => (
          <tr key={one.share}>
            <th scope="row">{figure(100 * one.share, 1).replace(/\.0$/, "")} % of days</th>
            <td>{one.store_l === null ? none : quantityText({ value: one.store_l, unit: "L" }, system)}</td>
            <td>{one.roof_m2 === null ? none : quantityText({ value: one.roof_m2, unit: "m²" }, system)}</td>
            <td>
              {one.more_lpd === null ? none : quantityText({ value: one.more_lpd, unit: "L/d" }, system)}
            </td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
