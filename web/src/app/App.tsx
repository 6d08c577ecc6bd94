import CssBaseline from "@mui/material/CssBaseline";
import { ThemeProvider } from "@mui/material/styles";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { BrowserRouter, Navigate, Route, Routes, useParams } from "react-router";

import { Sites } from "../features/sites";
import { lazyPart } from "../shared/lazyPart";
import { theme } from "./theme";

const Workbench = lazyPart(async () => (await import("../features/workbench")).Workbench);
const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

/** Nothing of one plan is kept for the next. */
function OnePlan() {
  return <Workbench key={useParams().designId} />;
}

export function App() {
  return (
    <ThemeProvider theme={theme} defaultMode="light">
      <CssBaseline />
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Routes>
            <Route path="/" element={<Sites />} />
            <Route path="/designs/:designId" element={<Navigate to="lines" replace />} />
            <Route path="/designs/:designId/:view" element={<OnePlan />} />
            <Route path="*" element={<Navigate to="/" replace />} />
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </ThemeProvider>
  );
}
