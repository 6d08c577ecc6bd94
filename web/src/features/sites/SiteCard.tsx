import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { glanceAt } from "../../api/client";
import type { DesignHeading, Glance } from "../../api/types";
import { ink } from "../../app/theme";
import { fitScale } from "../../shared/fit";
import { Said } from "../../shared/Said";
import { StandingMark } from "../../shared/StandingMark";
import { pathOf, type Spot } from "../../shared/way";
import { RenameDialog } from "./RenameDialog";
import { useCopyPlan, useDeletePlan, useRenamePlan } from "./usePlans";

const FRAME = { width: 150, height: 96 };
const EDGE = { left: 10, right: 10, top: 10, bottom: 10 };

interface Props {
  design: DesignHeading;
  /** it was deleted */
  onDelete: (deleted: { id: string; name: string }) => void;
}

/** One plan of the list: how it lies, how it stands, when it was last changed. */
export function SiteCard({ design, onDelete }: Props) {
  const [renaming, setRenaming] = useState(false);
  const copy = useCopyPlan();
  const rename = useRenamePlan();
  const remove = useDeletePlan();
  const full = `${design.site_name} · ${design.name}`;
  const trouble = [copy, rename, remove].find((one) => one.isError)?.error;
  // a plan that nobody has judged since it was saved is judged when it is first listed, and that is kept
  const asked = useQuery({
    queryKey: ["glance", design.id, design.number],
    queryFn: ({ signal }) => glanceAt(design.id, design.number, signal),
    enabled: design.glance === null,
    staleTime: Infinity,
  });
  const seen = design.glance ?? asked.data;
  return (
    <Box
      component="li"
      data-testid={`site-${design.id}`}
      sx={{
        borderTop: `1px solid ${ink("rule")}`,
        py: 3,
        display: "flex",
        gap: 4,
        flexWrap: { xs: "wrap", md: "nowrap" },
      }}
    >
      <Box
        sx={{
          width: FRAME.width,
          height: FRAME.height,
          flexShrink: 0,
          bgcolor: ink("land"),
          border: `1px solid ${ink("rule")}`,
        }}
      >
        {seen && <SmallMap seen={seen} />}
      </Box>
      <Box>
        <Link
          to={`/designs/${design.id}/lines`}
          style={{
            color: ink("deep"),
            fontWeight: 700,
            fontSize: 17,
            display: "inline-flex",
            alignItems: "center",
            minHeight: 44,
          }}
        >
          {design.name}
        </Link>
        <Typography sx={{ my: 1 }}>
          {seen ? (
            <>
              <StandingMark standing={seen.standing} /> <Said words={seen.sentence} />
              {seen.findings > 1 && ` ${seen.findings} findings in all.`}
            </>
          ) : asked.isError ? (
            "Its verdict cannot be shown just now."
          ) : (
            "Calculating …"
          )}
        </Typography>
        <Typography color="text.secondary">
          revision {design.number}, saved {new Date(design.saved_at).toLocaleString("en-GB")}
          {design.made_up && " · made-up data for demonstration"}
        </Typography>
        <Box sx={{ display: "flex", gap: 2, mt: 1, ml: -1 }}>
          <Button aria-label={`Rename ${full}`} onClick={() => setRenaming(true)}>
            Rename
          </Button>
          <Button
            aria-label={`Copy ${full}`}
            disabled={copy.isPending}
            onClick={() => copy.mutate(design.id)}
          >
            Copy
          </Button>
          <Button
            aria-label={`Delete ${full}`}
            disabled={remove.isPending}
            onClick={() =>
              remove.mutate(
                { id: design.id, deleted: true },
                { onSuccess: () => onDelete({ id: design.id, name: full }) },
              )
            }
          >
            Delete
          </Button>
        </Box>
        {trouble && (
          <Typography role="alert" color="error">
            {trouble.message}
          </Typography>
        )}
        {renaming && (
          <RenameDialog
            name={design.name}
            onRename={(name) => {
              rename.mutate({ id: design.id, name });
              setRenaming(false);
            }}
            onLeave={() => setRenaming(false)}
          />
        )}
      </Box>
    </Box>
  );
}

function SmallMap({ seen }: { seen: Glance }) {
  const spots = [...seen.ways.flat(), ...seen.marks.map((mark) => mark.at)] as Spot[];
  if (!spots.length) return null;
  const scale = fitScale(spots, FRAME, EDGE);
  const shown = ([x = 0, y = 0]: readonly number[]): Spot => [scale.x(x), scale.y(y)];
  return (
    <svg width={FRAME.width} height={FRAME.height} aria-hidden style={{ display: "block" }}>
      {seen.ways.map((way, index) => (
        <path key={index} d={pathOf(way.map(shown))} fill="none" stroke={ink("deep")} strokeWidth={2} />
      ))}
      {seen.marks.map(({ kind, at }, index) => {
        const [x, y] = shown(at);
        return kind === "vessel" ? (
          <rect
            key={index}
            x={x - 5}
            y={y - 4}
            width={10}
            height={8}
            fill={ink("paper")}
            stroke={ink("ink")}
            strokeWidth={1.5}
          />
        ) : (
          <circle key={index} cx={x} cy={y} r={3} fill={ink("water")} stroke={ink("ink")} />
        );
      })}
    </svg>
  );
}
