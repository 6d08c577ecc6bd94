import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useRef, useState } from "react";

import { askWeather, readWeatherTable } from "../../api/client";
import type { AskWeather, Design, WeatherData } from "../../api/types";
import { ink } from "../../app/theme";
import { FileInput } from "../../shared/FileInput";
import { Choice } from "../../shared/Choice";
import { QuantityField } from "../../shared/QuantityField";
import { whatIsWrong } from "../../shared/faults";

interface Props {
  document: Design;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const CLIMATES: AskWeather["climate"][] = ["wet upland", "mild lowland", "dry summers", "dry plains"];
const KINDS = ["as it comes", "one dry year", "one hot spell", "a dry year and a hot spell"];

/** Where the season's weather comes from: the stand-in service, or a table of one's own. */
export function Weather({ document, edit, onDone }: Props) {
  const weather = document.season?.weather;
  const [climate, setClimate] = useState<AskWeather["climate"]>("mild lowland");
  const [kind, setKind] = useState(KINDS[0] ?? "");
  const [years, setYears] = useState(1);
  const [seed, setSeed] = useState(1);
  const [said, setSaid] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const take = (found: WeatherData) => {
    setSaid(null);
    edit("season.weather", (draft) => {
      draft.season = { ...draft.season, weather: found };
    });
    onDone();
  };
  const fetched = (asked: Promise<WeatherData>) => {
    setSaid("Fetching …");
    asked.then(take).catch((error: unknown) => setSaid(whatIsWrong(error)));
  };
  const ask = () => {
    const dry = kind.includes("dry");
    const hot = kind.includes("hot");
    fetched(
      askWeather({
        climate,
        since: weather?.from ?? `${new Date().getFullYear()}-01-01`,
        years: Math.min(40, Math.max(1, Math.round(years))),
        seed: Math.max(0, Math.round(seed)),
        southern: (document.site.latitude_deg ?? document.site.anchor?.latitude_deg ?? 0) < 0,
        ...(dry ? { drought_year: 1 } : {}),
        ...(hot ? { hot_spell_year: 1 } : {}),
      }),
    );
  };
  return (
    <Box role="group" aria-label="Weather" sx={{ mb: 3 }}>
      <Typography color="text.secondary">
        {weather
          ? `${weather.rain_mm.length} days from ${weather.from}: ${weather.source || "a table"}.`
          : "No weather yet: use made-up weather to try, or import your own table of days with rain and temperatures."}
      </Typography>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(130px, 1fr))",
          columnGap: 4,
          rowGap: 2,
          alignItems: "end",
          my: 2,
        }}
      >
        <Choice
          label="Made-up weather"
          value={climate}
          options={CLIMATES.map((one) => ({ value: one, text: one }))}
          onChange={(value) => setClimate(value as AskWeather["climate"])}
        />
        <Choice
          label="With"
          value={kind}
          options={KINDS.map((one) => ({ value: one, text: one }))}
          onChange={setKind}
        />
        <QuantityField label="Years" family="count" value={years} onChange={setYears} />
        <QuantityField label="Random seed" family="count" value={seed} onChange={setSeed} />
        <Button variant="outlined" onClick={ask}>
          Use this weather
        </Button>
        <Button variant="outlined" onClick={() => file.current?.click()}>
          Import a table
        </Button>
        <FileInput
          ref={file}
          label="Weather table"
          accept=".csv,.txt,text/csv"
          onFile={(chosen) => fetched(chosen.text().then((text) => readWeatherTable(text, chosen.name)))}
        />
      </Box>
      {said && (
        <Typography role="status" sx={{ color: ink(said === "Fetching …" ? "faint" : "short") }}>
          {said}
        </Typography>
      )}
    </Box>
  );
}

/** Why nothing was taken: each fault with its line, or what the service says. */
