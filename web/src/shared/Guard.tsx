import Box from "@mui/material/Box";
import { Fragment, type ComponentType, type ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";

import { ink } from "../app/theme";

interface Props {
  /** what is drawn: with another one it is tried again */
  of: unknown[];
  /** what the message stands in, where that went with the fault */
  within?: ComponentType<{ children: ReactNode }>;
  children: ReactNode;
}

/** Keeps a fault of one part of the page from emptying all of it. */
export function Guard({ of, within: Within = Fragment, children }: Props) {
  return (
    <ErrorBoundary
      resetKeys={of}
      fallback={
        <Within>
          <Box role="alert" sx={{ p: 4, bgcolor: ink("paper") }}>
            Something went wrong and this cannot be shown. Your plan is kept: undo the last step, open another
            view, or export the plan as a file.
          </Box>
        </Within>
      }
    >
      {children}
    </ErrorBoundary>
  );
}
