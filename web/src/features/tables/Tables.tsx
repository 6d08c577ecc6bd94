import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Catalogue, Design, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { shownUnit } from "../../shared/units";
import type { Edit } from "../sheet";
import { Cell } from "./Cell";
import { sorted, TABLES, type Column, type Kind } from "./columns";

interface Props {
  document: Design;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  chosen: readonly string[];
  edit: Edit;
  onSelect: (id: string) => void;
  onDone: () => void;
}

interface Part {
  id: string;
  name?: string | null;
}

/** Everything on the plan in tables: each figure can be typed, each column sorted; the plan follows. */
export function Tables({ document, catalogue, faults, chosen, edit, onSelect, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const [kind, setKind] = useState<Kind>("outlets");
  const [order, setOrder] = useState<{ key: string; down: boolean } | null>(null);
  const table = TABLES.find((one) => one.kind === kind);
  const columns = (table?.columns ?? []) as unknown as Column<Part>[];
  const listed: Part[] = document[kind] ?? [];
  const by = columns.find((column) => column.key === order?.key);
  const parts = by ? sorted(listed, by, document, order?.down ?? false) : listed;
  return (
    <Box
      component="section"
      aria-label="Tables"
      sx={{ height: "100%", display: "flex", flexDirection: "column" }}
    >
      <Box sx={{ display: "flex", gap: 1, px: 3, pt: 2, pb: 1, flexWrap: "wrap" }}>
        {TABLES.map((one) => (
          <Button
            key={one.kind}
            variant={one.kind === kind ? "contained" : "outlined"}
            aria-pressed={one.kind === kind}
            onClick={() => {
              setKind(one.kind);
              setOrder(null);
            }}
          >
            {one.title} ({document[one.kind]?.length ?? 0})
          </Button>
        ))}
      </Box>
      <Box sx={{ flex: 1, overflow: "auto", px: 3 }}>
        <Box component="table" sx={TABLE}>
          <caption style={{ captionSide: "bottom", textAlign: "left", fontSize: 12, color: ink("faint") }}>
            {table?.title}: click a heading to sort. Undo reverts what was typed.
          </caption>
          <thead>
            <tr>
              {columns.map((column) => {
                const down = order?.key === column.key ? order.down : null;
                return (
                  <th
                    key={column.key}
                    scope="col"
                    aria-sort={down === null ? "none" : down ? "descending" : "ascending"}
                    style={{ textAlign: column.family ? "right" : "left" }}
                  >
                    <button type="button" onClick={() => setOrder({ key: column.key, down: down === false })}>
                      {column.title}
                      {column.family && ` [${shownUnit(column.family, system)}]`}
                      {down === null ? "" : down ? " ▾" : " ▴"}
                    </button>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {parts.map((part) => (
              <tr
                key={part.id}
                data-testid={`row-${part.id}`}
                data-chosen={chosen.includes(part.id)}
                onFocus={() => {
                  if (!chosen.includes(part.id)) onSelect(part.id);
                }}
              >
                {columns.map((column) => (
                  <td key={column.key}>
                    <Cell
                      part={part}
                      column={column}
                      document={document}
                      catalogue={catalogue}
                      fault={faults.find((fault) =>
                        fault.path.includes(`/${kind}/${listed.indexOf(part)}/${column.key}`),
                      )}
                      edit={edit}
                      onDone={onDone}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}

const TABLE = {
  borderCollapse: "collapse",
  fontSize: 13,
  "& th": {
    position: "sticky",
    top: 0,
    bgcolor: ink("paper"),
    borderBottom: `1px solid ${ink("rule")}`,
    p: 0,
  },
  "& th button": {
    font: "inherit",
    fontWeight: 700,
    color: ink("ink"),
    background: "none",
    border: 0,
    padding: "4px 8px 4px 0",
    cursor: "pointer",
    whiteSpace: "nowrap",
  },
  "& td": { borderBottom: `1px solid ${ink("rule")}`, pr: 2, py: 0.25 },
  "& tr[data-chosen=true] td": { bgcolor: ink("sheet") },
  "& input, & select": {
    font: "inherit",
    color: ink("ink"),
    bgcolor: "transparent",
    border: "1px solid transparent",
    borderRadius: "2px",
    px: 0.5,
    py: 0.25,
    minWidth: 0,
  },
  "& input:hover, & select:hover, & input:focus, & select:focus": {
    borderColor: ink("rule"),
    bgcolor: ink("paper"),
  },
  "& input[aria-invalid=true]": { borderColor: ink("short") },
  "& option": { color: "#16302f", bgcolor: "#fbf8ef" },
} as const;
