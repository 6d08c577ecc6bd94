import Alert from "@mui/material/Alert";

import { useUnreached } from "../api/unreached";
import { StandingMark } from "./StandingMark";

/** That the server does not answer, and since when: what is shown was kept on this device. */
export function Unreached() {
  const since = useUnreached((state) => state.since);
  if (since === null) return null;
  const time = new Date(since).toLocaleTimeString(undefined, { timeStyle: "short" });
  return (
    <Alert severity="info" square data-testid="unreached" icon={<StandingMark standing="watch" size={14} />}>
      No connection since {time}: what is shown was kept on this device. Entries of the log wait here and are
      sent later.
    </Alert>
  );
}
