import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { newSite } from "../../api/client";
import type { Design, NewSiteAsked } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { NameField } from "../../shared/NameField";
import { QuantityField } from "../../shared/QuantityField";

type Start = NewSiteAsked["start"];

interface Props {
  pending: boolean;
  onStart: (made: Promise<Design>) => void;
}

/** A site from nothing: what it is called, and where the water starts. */
export function NewSite({ pending, onStart }: Props) {
  const [site, setSite] = useState("");
  const [start, setStart] = useState<Start>("tank");
  const [name, setName] = useState("");
  const [ground, setGround] = useState(100);
  return (
    <Box
      component="form"
      aria-label="A new site"
      sx={{
        border: `1px solid ${ink("rule")}`,
        bgcolor: ink("sheet"),
        p: 4,
        mt: 5,
        display: "grid",
        gap: 3,
        maxWidth: 520,
      }}
      onSubmit={(event) => {
        event.preventDefault();
        onStart(newSite(site.trim() || "New site", start, name.trim() || "Tank", ground));
      }}
    >
      <Typography variant="h2">A new site: where does the water start?</Typography>
      <NameField label="Name of the site" value={site} placeholder="New site" onChange={setSite} />
      <Choice
        label="It starts at"
        value={start}
        options={[
          { value: "tank", text: "a tank" },
          { value: "spring box", text: "a spring box" },
          { value: "pond", text: "a pond" },
        ]}
        onChange={(value) => setStart(value as Start)}
      />
      <NameField label="What you call it" value={name} placeholder="Tank" onChange={setName} />
      <QuantityField
        label="Ground there"
        family="m"
        digits={1}
        value={ground}
        hint="any height will do: only differences count"
        onChange={setGround}
      />
      <Button type="submit" variant="contained" disabled={pending}>
        Begin
      </Button>
    </Box>
  );
}
