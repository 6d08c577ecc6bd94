import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import { OneOf } from "./OneOf";

interface Props<Page extends string> {
  page: Page;
  pages: readonly { value: Page; text: string }[];
  onChange: (page: Page) => void;
  /** what stands beside them */
  children?: ReactNode;
}

/** The pages of a view, of which one is shown. */
export const PageBar = <Page extends string>({ page, pages, onChange, children }: Props<Page>) => (
  <Box
    sx={{
      px: 4,
      pt: 3,
      displayPrint: "none",
      display: "flex",
      flexWrap: "wrap",
      alignItems: "center",
      columnGap: 6,
      rowGap: 2,
    }}
  >
    <OneOf<Page> name="Which page" value={page} options={pages} onChange={onChange} />
    {children}
  </Box>
);
