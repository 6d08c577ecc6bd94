import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useInfiniteQuery, useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { useNavigate } from "react-router";

import { listDesigns } from "../../api/client";
import { createOnce } from "../../api/once";
import type { Design, DesignHeading } from "../../api/types";
import { ink } from "../../app/theme";
import { FileInput } from "../../shared/FileInput";
import { Brand } from "../../shared/Brand";
import { savesDone } from "../../shared/savingTurn";
import { DeletedNotice, DeletedPlans, useDeleted } from "./DeletedPlans";
import { NewPlan } from "./NewPlan";
import { Refusal } from "./Refusal";
import { SiteCard } from "./SiteCard";
import { WholeCopy } from "./WholeCopy";

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
          <WholeCopy />
        </Box>
        <Box>
          <NewPlan pending={open.isPending} onStart={open.mutate} onImport={() => picker.current?.click()} />
          <FileInput ref={picker} label="Design file" accept=".json,application/json" onFile={open.mutate} />
          {open.isError && <Refusal error={open.error} done="opened" />}
        </Box>
      </Box>
      <Box component="footer" sx={{ maxWidth: 1240, mx: "auto", px: { xs: 3, md: 5 }, pb: 4 }}>
        <Button component="a" variant="text" href="/third-party-notices.md" sx={{ px: 0 }}>
          Third-party notices
        </Button>
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
