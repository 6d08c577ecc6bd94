import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect } from "react";

import { ink } from "../app/theme";
import { drop, keepSending, send, useQueue } from "./logQueue";

/** What waits on this device to be sent, what the server refuses, and whether anything can be kept here at all. */
export function QueueTold({ designId }: { designId: string }) {
  const { waiting, trouble } = useQueue();
  useEffect(keepSending, []);
  const own = waiting.filter((one) => one.designId === designId);
  const refused = own.filter((one) => one.refused !== null);
  const count = own.length - refused.length;
  return (
    <Box data-testid="queue" role="status" sx={{ bgcolor: ink("rail"), px: 4, py: 2, fontSize: 14 }}>
      {trouble && <Box sx={{ color: ink("short"), fontWeight: 700 }}>{trouble}</Box>}
      {count === 0 ? (
        "All entries are sent."
      ) : (
        <>
          <span aria-hidden style={{ color: ink("little") }}>
            ◆{" "}
          </span>
          {count} {count === 1 ? "entry waits" : "entries wait"} on this device.{" "}
          <Button onClick={() => void send()}>Send now</Button>
        </>
      )}
      {refused.map((one) => (
        <Box key={one.id} sx={{ mt: 1 }}>
          <strong>Not taken:</strong> {one.entry.said || one.entry.part_name || one.entry.kind}. {one.refused}{" "}
          <Button onClick={() => void drop(one.id)}>Delete it here</Button>
        </Box>
      ))}
    </Box>
  );
}
