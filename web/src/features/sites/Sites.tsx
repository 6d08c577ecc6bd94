import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useLocation, useNavigate } from "react-router";

import { listDesigns, Refused } from "../../api/client";
import { createOnce } from "../../api/once";
import type { Design, DesignHeading } from "../../api/types";
import { ink } from "../../app/theme";
import { Brand } from "../../shared/Brand";
import { savesDone } from "../../shared/savingTurn";
import { NewPlan } from "./NewPlan";
import { SiteCard } from "./SiteCard";
import { useDeletePlan } from "./usePlans";

interface Deleted {
  id: string;
  name: string;
}

/** The first page: the plans by site, and ways to start one. */
export function Sites() {
  const designs = useInfiniteQuery({
    queryKey: ["designs", "pages"],
    queryFn: async ({ pageParam }) => {
      await savesDone(); // a plan that was just left stands as it was left
      return listDesigns(pageParam);
    },
    initialPageParam: null as DesignHeading | null,
    getNextPageParam: ({ designs: page, count }, pages) =>
      pages.reduce((sum, one) => sum + one.designs.length, 0) < count ? (page.at(-1) ?? null) : null,
  });
  const listed = designs.data?.pages.flatMap((page) => page.designs);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const open = useMutation({
    mutationFn: async (given: File | Promise<Design>) =>
      createOnce(given instanceof File ? (JSON.parse(await given.text()) as unknown) : await given),
    onSuccess: (revision) => {
      void queries.invalidateQueries({ queryKey: ["designs"] });
      void navigate(`/designs/${revision.design_id}/lines`);
    },
  });
  const [deleted, drop] = useDeleted();
  return (
    <Box sx={{ minHeight: "100vh" }}>
      <Box component="header" sx={{ bgcolor: ink("bar"), color: ink("onBar"), px: 4, py: 2 }}>
        <Brand />
      </Box>
      <Box
        component="main"
        sx={{
          maxWidth: 1240,
          mx: "auto",
          p: { xs: 3, md: 5 },
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 480px" },
          gap: 5,
          alignItems: "start",
        }}
      >
        <Box>
          <Typography variant="h1" sx={{ mb: 3 }}>
            My plans
          </Typography>
          {deleted && <DeletedNotice deleted={deleted} onGone={() => drop(null)} />}
          {designs.isPending && <Typography>Loading …</Typography>}
          {designs.isError && (
            <Typography role="alert" color="error">
              {designs.error.message} <Button onClick={() => void designs.refetch()}>Try again</Button>
            </Typography>
          )}
          {bySite(listed ?? []).map(([site, plans]) => (
            <Box component="section" key={site} aria-label={site} sx={{ mb: 3 }}>
              <Typography variant="h2">{site}</Typography>
              <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
                {plans.map((design) => (
                  <SiteCard key={design.id} design={design} onDelete={drop} />
                ))}
              </Box>
            </Box>
          ))}
          {listed?.length === 0 && <Typography>No plans yet.</Typography>}
          {designs.hasNextPage && (
            <Button
              variant="text"
              disabled={designs.isFetchingNextPage}
              onClick={() => void designs.fetchNextPage()}
            >
              Show more plans
            </Button>
          )}
          <DeletedPlans />
        </Box>
        <Box>
          <NewPlan pending={open.isPending} onStart={open.mutate} onImport={() => picker.current?.click()} />
          <input
            ref={picker}
            type="file"
            accept=".json,application/json"
            aria-label="Design file"
            hidden
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) open.mutate(file);
              event.target.value = "";
            }}
          />
          {open.isError && <Refusal error={open.error} />}
        </Box>
      </Box>
    </Box>
  );
}

/** The plans of each site, the site whose plan was saved last first. */
function bySite(designs: DesignHeading[]): [string, DesignHeading[]][] {
  const sites = new Map<string, DesignHeading[]>();
  for (const design of designs) sites.set(design.site_name, [...(sites.get(design.site_name) ?? []), design]);
  return [...sites];
}

/** The plan that was deleted last; one that was open comes with the way here, and is deleted now that it is left. */
function useDeleted(): [Deleted | null, (deleted: Deleted | null) => void] {
  const [deleted, setDeleted] = useState<Deleted | null>(null);
  const location = useLocation();
  const navigate = useNavigate();
  const remove = useDeletePlan().mutate;
  const asked = (location.state as { deleted?: Deleted } | null)?.deleted ?? null;
  useEffect(() => {
    if (!asked) return;
    remove({ id: asked.id, deleted: true }, { onSuccess: () => setDeleted(asked) });
    void navigate(".", { replace: true, state: null });
  }, [asked, remove, navigate]);
  return [deleted, setDeleted];
}

function DeletedNotice({ deleted, onGone }: { deleted: Deleted; onGone: () => void }) {
  const restore = useDeletePlan();
  const undo = useRef<HTMLButtonElement>(null);
  useEffect(() => undo.current?.focus(), [deleted]);
  return (
    <Box
      role="status"
      sx={{ display: "flex", gap: 3, alignItems: "center", bgcolor: ink("sheet"), px: 3, py: 1, mb: 3 }}
    >
      <span>Deleted: {deleted.name}.</span>
      <Button
        ref={undo}
        variant="outlined"
        disabled={restore.isPending}
        onClick={() => restore.mutate({ id: deleted.id, deleted: false }, { onSuccess: onGone })}
      >
        Undo
      </Button>
    </Box>
  );
}

/** Deleted plans, to be restored, on request. */
function DeletedPlans() {
  const [open, setOpen] = useState(false);
  const restore = useDeletePlan();
  const listed = useQuery({
    queryKey: ["designs", "deleted"],
    queryFn: async () => (await listDesigns(null, { deleted: true })).designs,
    enabled: open,
  });
  return (
    <Box sx={{ mt: 3 }}>
      <Button variant="text" aria-expanded={open} onClick={() => setOpen(!open)} sx={{ px: 0 }}>
        {open ? "Hide deleted plans" : "Show deleted plans"}
      </Button>
      {open && listed.data?.length === 0 && <Typography>None.</Typography>}
      {open && (
        <Box component="ul" aria-label="Deleted plans" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {listed.data?.map((plan) => (
            <Box component="li" key={plan.id} sx={{ display: "flex", gap: 3, alignItems: "center", py: 1 }}>
              <span>
                {plan.site_name} · {plan.name}
              </span>
              <Button
                variant="outlined"
                aria-label={`Restore ${plan.site_name} · ${plan.name}`}
                onClick={() => restore.mutate({ id: plan.id, deleted: false })}
              >
                Restore
              </Button>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Refusal({ error }: { error: Error }) {
  const faults = error instanceof Refused ? (error.problem.faults ?? []) : [];
  const count = faults.length === 1 ? "1 fault" : `${faults.length} faults`;
  return (
    <Box role="alert" sx={{ mt: 3, borderLeft: `4px solid ${ink("short")}`, pl: 3 }}>
      <Typography sx={{ fontWeight: 700 }}>
        {faults.length ? `Not opened: ${count}. Nothing was saved.` : `Not opened: ${error.message}`}
      </Typography>
      <ul>
        {faults.slice(0, 30).map((fault) => (
          <li key={fault.path + fault.code}>
            <code>{fault.path.replace("/document", "") || "/"}</code>: found {fault.value}; allowed:{" "}
            {fault.limit}
          </li>
        ))}
      </ul>
    </Box>
  );
}
