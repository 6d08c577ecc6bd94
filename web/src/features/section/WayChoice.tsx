import NativeSelect from "@mui/material/NativeSelect";
import { memo } from "react";

import { sameOptions, type Option } from "../../shared/options";
import { useSteady } from "../../shared/useSteady";

interface Props {
  chosen: string;
  ways: Option[];
  onWay: (key: string) => void;
}

/** Which way the section follows. */
export function WayChoice({ chosen, ways, onWay }: Props) {
  return <Select chosen={chosen} ways={ways} onWay={useSteady(onWay)} />;
}

const Select = memo(
  function Select({ chosen, ways, onWay }: Props) {
    return (
      <NativeSelect
        value={chosen}
        onChange={(event) => onWay(event.target.value)}
        inputProps={{ "aria-label": "Route of the profile" }}
        sx={{
          fontSize: 14,
          fontWeight: 700,
          minWidth: 0,
          "& select": { py: 0, minHeight: { xs: 44, md: 24 } },
        }}
      >
        {ways.map((way) => (
          <option key={way.value} value={way.value}>
            {way.text}
          </option>
        ))}
      </NativeSelect>
    );
  },
  (a, b) => a.chosen === b.chosen && sameOptions(a.ways, b.ways), // each answer brings them anew, and mostly alike
);
