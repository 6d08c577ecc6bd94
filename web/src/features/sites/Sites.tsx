import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { useNavigate } from "react-router";

import type { Design, DesignHeading } from "../../api/types";
import { createDesign, listDesigns, Refused } from "../../api/client";
import { savesDone } from "../../shared/savingTurn";
import { ink } from "../../app/theme";
import { Brand } from "../../shared/Brand";
import { NewSite } from "./NewSite";
import { SiteCard } from "./SiteCard";

/** The first page: the plans that are kept here, and a way to open a design file. */
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
      createDesign(given instanceof File ? (JSON.parse(await given.text()) as unknown) : await given),
    onSuccess: (revision) => {
      void queries.invalidateQueries({ queryKey: ["designs"] });
      void navigate(`/designs/${revision.design_id}/lines`);
    },
  });
  return (
    <Box sx={{ minHeight: "100vh" }}>
      <Box component="header" sx={{ bgcolor: ink("bar"), color: ink("onBar"), px: 4, py: 2 }}>
        <Brand />
      </Box>
      <Box component="main" sx={{ maxWidth: 760, mx: "auto", p: 5 }}>
        <Typography variant="h1" sx={{ mb: 3 }}>
          Plans kept here
        </Typography>
        {designs.isPending && <Typography>Looking …</Typography>}
        {designs.isError && (
          <Typography role="alert" color="error">
            {designs.error.message} <Button onClick={() => void designs.refetch()}>Try again</Button>
          </Typography>
        )}
        <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {listed?.map((design) => (
            <SiteCard key={design.id} design={design} />
          ))}
        </Box>
        {listed?.length === 0 && <Typography>None yet. Begin a new site, or open a design file.</Typography>}
        {designs.hasNextPage && (
          <Button
            variant="text"
            disabled={designs.isFetchingNextPage}
            onClick={() => void designs.fetchNextPage()}
          >
            Show more plans
          </Button>
        )}
        <Button
          variant="outlined"
          sx={{ mt: 4 }}
          disabled={open.isPending}
          onClick={() => picker.current?.click()}
        >
          Open a design file
        </Button>
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
        <NewSite pending={open.isPending} onStart={open.mutate} />
        {open.isError && <Refusal error={open.error} />}
      </Box>
    </Box>
  );
}

function Refusal({ error }: { error: Error }) {
  const faults = error instanceof Refused ? (error.problem.faults ?? []) : [];
  return (
    <Box role="alert" sx={{ mt: 3, borderLeft: `4px solid ${ink("short")}`, pl: 3 }}>
      <Typography sx={{ fontWeight: 700 }}>
        {faults.length
          ? `Not opened: ${faults.length} fault(s). Nothing was kept.`
          : `Not opened: ${error.message}`}
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
