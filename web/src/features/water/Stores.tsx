import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Analysis, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { download } from "../../shared/download";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText, shownUnit, toShown } from "../../shared/units";
import { levelStrip } from "./levelStrip";

interface Props {
  document: Design;
  supply: Analysis["supply"];
}

/** The stores one by one: what each gives and weighs, its level in litres, and the round of refills. */
export function Stores({ document, supply }: Props) {
  const system = usePreferences((state) => state.system);
  const nameOf = (id: string) => document.vessels?.find((one) => one.id === id)?.name ?? id;
  const reach = (id: string) => {
    const can = document.vessels?.find((one) => one.id === id)?.reachable;
    return can == null ? "not said" : can ? "can be reached" : "■ none";
  };
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const days = (value: number | null) =>
    value === null ? "nothing draws from it" : `empty in ${quantityText({ value, unit: "d" }, system)}`;
  return (
    <>
      <Box
        component="table"
        data-testid="stores"
        sx={{
          fontSize: 13,
          borderCollapse: "collapse",
          mb: 2,
          "& th, & td": { textAlign: "right", fontWeight: 400, py: 0.5, pl: 5 },
          "& th:first-of-type": { textAlign: "left", pl: 0 },
          "& thead": { color: ink("faint") },
          "& tbody tr": { borderTop: `1px solid ${ink("rule")}` },
        }}
      >
        <thead>
          <tr>
            <th scope="col">Store</th>
            <th scope="col">gives</th>
            <th scope="col">dead</th>
            <th scope="col">weighs full</th>
            <th scope="col">way to it</th>
            <th scope="col">level in litres</th>
          </tr>
        </thead>
        <tbody>
          {supply.stores.map((store) => (
            <tr key={store.vessel}>
              <th scope="row">{nameOf(store.vessel)}</th>
              <td>{litres(store.usable_l)}</td>
              <td>{litres(store.dead_l)}</td>
              <td>{quantityText({ value: store.full_kg, unit: "kg" }, system)}</td>
              <td>{reach(store.vessel)}</td>
              <td>
                <Button
                  sx={{ p: 0 }}
                  onClick={() => {
                    const title = `${document.site.name}: ${nameOf(store.vessel)}`;
                    const marks = store.marks_m.map((level, index) => ({
                      level,
                      text: `${figure(toShown(level, "m", system), 2)} ${shownUnit("m", system)}`,
                      litres: litres(store.marks_l[index] ?? 0),
                    }));
                    download(
                      levelStrip(title, marks),
                      "image/svg+xml",
                      `${nameOf(store.vessel)} level strip`,
                      "svg",
                    );
                  }}
                >
                  Strip to print
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      {supply.stores.map((store) => (
        <PictureTable
          key={store.vessel}
          title={`${nameOf(store.vessel)}: litres by its level`}
          head={["Level", "Holds"]}
          rows={store.marks_m.map((level, index) => [
            quantityText({ value: level, unit: "m" }, system),
            litres(store.marks_l[index] ?? 0),
          ])}
        />
      ))}
      {supply.round.length > 0 && (
        <Box sx={{ mt: 2 }}>
          <Typography variant="h3" sx={{ fontSize: 14, fontWeight: 700 }}>
            The round of refills, soonest empty first
          </Typography>
          <ol style={{ margin: "4px 0" }} data-testid="round">
            {supply.round.map((one) => (
              <li key={one.vessel}>
                {nameOf(one.vessel)}: {days(one.days)}, takes {litres(one.fill_l)} to the brim
              </li>
            ))}
          </ol>
        </Box>
      )}
    </>
  );
}
