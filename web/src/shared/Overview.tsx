import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import { Fragment, useEffect, useId, useRef, type ReactNode } from "react";

import { ink } from "../app/theme";

export interface Column {
  text: string;
  /** numbers stand to the right */
  number?: boolean;
  /** left out where there is little room */
  wide?: boolean;
}

export interface OverviewRow {
  id: string;
  name: string;
  /** one for each column after the name */
  cells: ReactNode[];
  /** what opens under the row, to be looked at and edited */
  content: () => ReactNode;
}

interface Props {
  label: string;
  /** what the first column is called */
  first: string;
  columns: Column[];
  rows: OverviewRow[];
  open: string | null;
  onOpen: (id: string | null) => void;
}

/** One line for each of many things; one of them is open at a time. */
export function Overview({ label, first, columns, rows, open, onOpen }: Props) {
  const id = useId();
  const shown = (column: Column) => (column.wide ? { xs: "none", md: "table-cell" } : "table-cell");
  return (
    <Box
      component="table"
      aria-label={label}
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        fontSize: 14,
        "& th, & td": { fontWeight: 400, textAlign: "left", py: 0.5, px: { xs: 1.5, md: 2.5 } },
        "& thead th": { fontSize: 12, color: ink("faint") },
        "& tbody > tr.row": { borderTop: `1px solid ${ink("rule")}` },
        "& tbody > tr.row:hover": { bgcolor: ink("sheet") },
      }}
    >
      <thead>
        <tr>
          <th scope="col">{first}</th>
          {columns.map((column) => (
            <Box
              component="th"
              scope="col"
              key={column.text}
              sx={{
                display: shown(column),
                ...(column.number ? { "&&": { textAlign: "right", whiteSpace: "nowrap" } } : {}),
              }}
            >
              {column.text}
            </Box>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const isOpen = row.id === open;
          return (
            <Fragment key={row.id}>
              <Box
                component="tr"
                className="row"
                data-testid={`row-${row.id}`}
                sx={isOpen ? { bgcolor: ink("sheet"), "& > *": { "&&": { fontWeight: 700 } } } : {}}
                onClick={(event) => {
                  if (event.target instanceof Element && !event.target.closest("button"))
                    onOpen(isOpen ? null : row.id);
                }}
              >
                <th scope="row">
                  <ButtonBase
                    aria-expanded={isOpen}
                    {...(isOpen ? { "aria-controls": `${id}-${row.id}` } : {})}
                    onClick={() => onOpen(isOpen ? null : row.id)}
                    sx={{ font: "inherit", textAlign: "left", minHeight: { xs: 44, md: 28 }, gap: 2 }}
                  >
                    <span aria-hidden>{isOpen ? "▾" : "▸"}</span> {row.name}
                  </ButtonBase>
                </th>
                {columns.map((column, index) => (
                  <Box
                    component="td"
                    key={column.text}
                    sx={{
                      display: shown(column),
                      ...(column.number ? { "&&": { textAlign: "right", whiteSpace: "nowrap" } } : {}),
                    }}
                  >
                    {row.cells[index]}
                  </Box>
                ))}
              </Box>
              {isOpen && (
                <tr>
                  <Box
                    component="td"
                    colSpan={columns.length + 1}
                    sx={{ bgcolor: ink("sheet"), "&&": { p: 3, pt: 1 } }}
                  >
                    <Opened id={`${id}-${row.id}`} name={row.name}>
                      {row.content()}
                    </Opened>
                  </Box>
                </tr>
              )}
            </Fragment>
          );
        })}
      </tbody>
    </Box>
  );
}

/** What opens below the edge is brought into view, its line on top. */
function Opened({ id, name, children }: { id: string; name: string; children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const opened = box.current;
    if (!opened || opened.getBoundingClientRect().bottom < window.innerHeight) return;
    opened.closest("tr")?.previousElementSibling?.scrollIntoView({ block: "start" });
  }, []);
  return (
    <Box component="section" ref={box} id={id} aria-label={name}>
      {children}
    </Box>
  );
}
