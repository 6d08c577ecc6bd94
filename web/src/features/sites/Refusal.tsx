import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import { Refused } from "../../api/client";
import { ink } from "../../app/theme";

/** Why a file was not taken, and that nothing of it was kept. */
export function Refusal({ error, done }: { error: Error; done: string }) {
  const faults = error instanceof Refused ? (error.problem.faults ?? []) : [];
  const count = faults.length === 1 ? "1 fault" : `${faults.length} faults`;
  return (
    <Box role="alert" sx={{ mt: 3, borderLeft: `4px solid ${ink("short")}`, pl: 3 }}>
      <Typography sx={{ fontWeight: 700 }}>
        {faults.length ? `Not ${done}: ${count}. Nothing was saved.` : `Not ${done}: ${error.message}`}
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
