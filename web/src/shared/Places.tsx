import Button from "@mui/material/Button";
import { Fragment, useState } from "react";

import type { Design } from "../api/types";
import { nameOfPart } from "./names";

interface Props {
  document: Design;
  ids: readonly string[];
  onShow: (id: string) => void;
}

const FEW = 3;

/** Where on the plan something goes: each name leads there; of many, a few until all are asked for. */
export function Places({ document, ids, onShow }: Props) {
  const [all, setAll] = useState(false);
  const shown = all ? ids : ids.slice(0, FEW);
  return (
    <>
      {shown.map((id, index) => (
        <Fragment key={id}>
          <span style={{ whiteSpace: "nowrap" }}>
            <Button sx={LINK} onClick={() => onShow(id)}>
              {nameOfPart(document, id)}
            </Button>
            {index < shown.length - 1 && ","}
          </span>{" "}
        </Fragment>
      ))}
      {shown.length < ids.length && (
        <>
          {" "}
          <Button sx={LINK} onClick={() => setAll(true)}>
            and {ids.length - shown.length} more
          </Button>
        </>
      )}
    </>
  );
}

const LINK = { p: 0, minWidth: 24, minHeight: { xs: 44, md: 24 }, textAlign: "left", fontSize: "inherit" };
