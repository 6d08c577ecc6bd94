import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useLocation, useNavigate } from "react-router";

import { listDesigns } from "../../api/client";
import { ink } from "../../app/theme";
import { useDeletePlan } from "./usePlans";

interface Deleted {
  id: string;
  name: string;
}

/** The plan that was deleted last; one that was open comes with the way here, and is deleted now that it is left. */
export function useDeleted(): [Deleted | null, (deleted: Deleted | null) => void] {
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

export function DeletedNotice({ deleted, onGone }: { deleted: Deleted; onGone: () => void }) {
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

/** Deleted plans, to be restored while they are kept, on request. */
export function DeletedPlans() {
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
                {plan.kept_until && `, kept until ${new Date(plan.kept_until).toLocaleDateString("en-GB")}`}
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
