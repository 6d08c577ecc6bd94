import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react({ compiler: true })],
  server: { proxy: { "/api": "http://127.0.0.1:8317" } },
  build: {
    target: "es2022",
    license: { fileName: "third-party-notices.md" },
    manifest: true, // which script each view fetches, for the test that weighs them
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: "react", test: /node_modules[\\/](react|react-dom|scheduler|react-router)[\\/]/, priority: 2 },
            { name: "mui", test: /node_modules[\\/](@mui|@emotion)[\\/]/, priority: 1 },
          ],
        },
      },
    },
  },
  test: {
    pool: "threads",
    isolate: false, // no test changes what a module holds, so they share their modules: a quarter of the time
    projects: [
      { extends: true, test: { name: "units", include: ["src/**/*.test.ts"], environment: "node" } },
      {
        extends: true,
        test: {
          name: "components",
          include: ["src/**/*.test.tsx"],
          environment: "happy-dom",
          environmentOptions: { happyDOM: { url: process.env.LEADSMAN_API ?? "http://localhost" } },
          setupFiles: ["src/testing/setup.ts"],
          testTimeout: 60_000,
        },
      },
    ],
  },
});
