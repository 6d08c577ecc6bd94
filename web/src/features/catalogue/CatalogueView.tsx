import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { addProducts, dropProduct, putProduct, tableAddress } from "../../api/client";
import type { Catalogue, OwnProduct, ProductTable } from "../../api/types";
import { ink } from "../../app/theme";
import { FileInput } from "../../shared/FileInput";
import { Choice } from "../../shared/Choice";
import { whatIsWrong } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { cellText, found, idFrom, rowsOf, TABLES, titleText, type Row } from "./columns";
import { OwnRow } from "./OwnRow";

/** What is sold, with its figures and where they come from; and what one's own shop has. */
export function CatalogueView({ catalogue }: { catalogue: Catalogue | undefined }) {
  const system = usePreferences((state) => state.system);
  const client = useQueryClient();
  const [table, setTable] = useState<ProductTable>("pipe");
  const [words, setWords] = useState("");
  const [row, setRow] = useState<Partial<Row> | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const again = () => client.invalidateQueries({ queryKey: ["catalogue"] });
  const keep = useMutation({
    mutationFn: (own: Partial<Row>) => {
      const told: OwnProduct = { ...own, product_id: own.product_id ?? idFrom(own.name ?? "") };
      delete told.source_id; // a row of one's own is nobody else's
      delete told.locator;
      return putProduct(table, told);
    },
    onSuccess: () => {
      setRow(null);
      void again();
    },
  });
  const drop = useMutation({ mutationFn: (id: string) => dropProduct(table, id), onSuccess: again });
  const add = useMutation({
    mutationFn: async (chosen: File) => addProducts(table, await chosen.text()),
    onSuccess: again,
  });
  const about = TABLES.find((one) => one.table === table);
  if (!catalogue || !about) return <Typography sx={{ p: 4 }}>Opening the catalogue …</Typography>;
  const rows = found(rowsOf(catalogue, table), words);
  const trouble = add.error ?? drop.error;
  return (
    <Box component="section" aria-label="Catalogue" sx={{ p: 4 }}>
      <Typography variant="h1">Catalogue</Typography>
      <Typography sx={{ my: 2, maxWidth: 720 }}>
        Parts as they are usually sold, without any maker. Prices are typical, in US dollars, and so are the
        values marked as typical: add own rows for what your shop sells, and for its prices. Own rows stay
        when the catalogue is updated.
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, alignItems: "end", mb: 2 }}>
        <Box sx={{ width: 230 }}>
          <Choice
            label="Table"
            value={table}
            options={TABLES.map((one) => ({ value: one.table, text: one.title }))}
            onChange={(chosen) => {
              setTable(chosen as ProductTable);
              setRow(null);
            }}
          />
        </Box>
        <TextField
          id="look-for"
          label="Search"
          value={words}
          size="small"
          variant="standard"
          onChange={(event) => setWords(event.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <Button variant="outlined" onClick={() => setRow({})}>
          Add own {about.one}
        </Button>
        <Button href={tableAddress(table)} download>
          Download CSV
        </Button>
        <Button onClick={() => file.current?.click()}>Import CSV</Button>
        <FileInput ref={file} label="CSV file with own rows" accept=".csv,text/csv" onFile={add.mutate} />
      </Box>
      {trouble && (
        <Typography role="alert" color="error" sx={{ my: 2 }}>
          {whatIsWrong(trouble)}
        </Typography>
      )}
      {add.data && (
        <Typography role="status" sx={{ my: 2 }}>
          {add.data.length} {add.data.length === 1 ? "row" : "rows"} added.
        </Typography>
      )}
      {catalogue.unread.length > 0 && (
        <Typography role="status" sx={{ my: 2 }}>
          Rows of an earlier version that this one cannot read are kept, and not offered:{" "}
          {catalogue.unread.join(", ")}.
        </Typography>
      )}
      {row && (
        <OwnRow
          one={about.one}
          columns={about.columns}
          row={row}
          trouble={keep.isError ? whatIsWrong(keep.error) : null}
          onChange={setRow}
          onKeep={() => keep.mutate(row)}
          onLeave={() => setRow(null)}
        />
      )}
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        {rows.length} rows
      </Typography>
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label={about.title}>
        <Box
          component="table"
          sx={{
            borderCollapse: "collapse",
            fontSize: 13,
            "& th, & td": { textAlign: "left", fontWeight: 400, py: 1, pr: 4, verticalAlign: "top" },
            "& td.figure": { textAlign: "right", whiteSpace: "nowrap" },
            "& td.source": { color: ink("faint"), fontSize: 12, minWidth: 340, lineHeight: 1.3 },
            "& thead th": { color: ink("faint"), lineHeight: 1.25 },
            "& tbody tr": { borderTop: `1px solid ${ink("rule")}` },
          }}
        >
          <thead>
            <tr>
              {about.columns.map((column) => (
                <th key={column.key} scope="col">
                  {titleText(column, system)}
                </th>
              ))}
              <th scope="col">Yours</th>
              <th scope="col">Where from</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((one) => {
              const own = one.source_id === "own";
              return (
                <tr key={one.product_id}>
                  {about.columns.map((column, index) =>
                    index === 0 ? (
                      <th key={column.key} scope="row" style={{ fontWeight: own ? 700 : 400, minWidth: 190 }}>
                        {one.name}
                      </th>
                    ) : (
                      <td
                        key={column.key}
                        className={column.family || column.number ? "figure" : undefined}
                        style={column.family || column.number ? undefined : { minWidth: 110 }}
                      >
                        {cellText(one[column.key], column, system)}
                      </td>
                    ),
                  )}
                  <td>
                    {own ? (
                      <>
                        <Button sx={{ p: 0, minWidth: 0 }} onClick={() => setRow(one)}>
                          Change
                        </Button>{" "}
                        <Button sx={{ p: 0, minWidth: 0 }} onClick={() => drop.mutate(one.product_id)}>
                          Delete
                        </Button>
                      </>
                    ) : (
                      <Button
                        sx={{ p: 0, minWidth: 0, whiteSpace: "nowrap" }}
                        onClick={() => setRow({ ...one, product_id: `own-${one.product_id}`, note: "" })}
                      >
                        Copy to own
                      </Button>
                    )}
                  </td>
                  <td className="source">
                    {catalogue.sources[String(one.source_id)]}; {one.note}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
