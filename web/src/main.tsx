import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { App } from "./app/App";
import { NotFetched } from "./shared/lazyPart";

const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");
createRoot(root, {
  // a part that could not be fetched says so in its place
  onCaughtError: (error) => {
    if (!(error instanceof NotFetched)) console.error(error);
  },
}).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
