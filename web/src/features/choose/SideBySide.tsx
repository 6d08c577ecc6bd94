import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useId, type ReactNode } from "react";

import { ink } from "../../app/theme";

interface Props {
  title: string;
  /** what is told of all of them */
  about: ReactNode;
  head: string[];
  rows: { key: string; cells: ReactNode[]; marked: boolean; onTry: () => void }[];
  /** while it is being worked out, or where it could not be */
  instead: string | null;
  onLeave: () => void;
  children?: ReactNode;
}

/** Choices laid side by side, each with what it would do; one click tries it. */
export function SideBySide({ title, about, head, rows, instead, onLeave, children }: Props) {
  const id = useId();
  return (
    <Dialog open onClose={onLeave} aria-labelledby={id} maxWidth={false}>
      <Box sx={{ p: 5, display: "grid", gap: 3, maxWidth: 1040, minWidth: { md: 720 } }}>
        <Typography id={id} variant="h1">
          {title}
        </Typography>
        <Typography component="div">{about}</Typography>
        {children}
        {instead && <Typography role="status">{instead}</Typography>}
        {rows.length > 0 && (
          <Box
            sx={{ maxHeight: "52vh", overflow: "auto", border: `1px solid ${ink("rule")}` }}
            tabIndex={0}
            role="region"
            aria-label={title}
          >
            <Box
              component="table"
              sx={{
                borderCollapse: "collapse",
                width: "100%",
                fontSize: 13,
                "& th, & td": { textAlign: "right", fontWeight: 400, py: 1, px: 2, whiteSpace: "nowrap" },
                "& th:first-of-type": {
                  textAlign: "left",
                  whiteSpace: "normal",
                  minWidth: { xs: 120, md: 180 },
                },
                "& thead th": {
                  position: "sticky",
                  top: 0,
                  bgcolor: ink("sheet"),
                  color: ink("faint"),
                  zIndex: 1,
                },
                "& tbody tr": { borderTop: `1px solid ${ink("rule")}` },
                "& tr[aria-current] th": { fontWeight: 700 },
              }}
            >
              <thead>
                <tr>
                  {head.map((one) => (
                    <th key={one} scope="col">
                      {one}
                    </th>
                  ))}
                  <th scope="col">Use</th>
                </tr>
              </thead>
              <tbody>
                {rows.map(({ key, cells: [first, ...others], marked, onTry }) => (
                  <tr key={key} aria-current={marked ? "true" : undefined}>
                    <th scope="row">{first}</th>
                    {others.map((cell, column) => (
                      <td key={column}>{cell}</td>
                    ))}
                    <td>
                      {marked ? (
                        "as now"
                      ) : (
                        <Button sx={{ p: 0, minWidth: 0 }} onClick={onTry}>
                          Try
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Box>
          </Box>
        )}
        <Box>
          <Button onClick={onLeave}>Cancel</Button>
        </Box>
      </Box>
    </Dialog>
  );
}
