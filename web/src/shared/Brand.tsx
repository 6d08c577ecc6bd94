import Box from "@mui/material/Box";

import mark from "../app/lead.svg";

/** The name with its mark, a sounding lead on its line; only the mark where there is no room. */
export function Brand({ short = false }: { short?: boolean }) {
  return (
    <Box
      component="span"
      sx={{ display: "inline-flex", alignItems: "center", gap: 2, fontWeight: 700, fontSize: 16 }}
    >
      <img src={mark} alt="" width={20} height={24} />
      {!short && "Leadsman"}
    </Box>
  );
}
