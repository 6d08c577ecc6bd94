import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

export default defineConfig({
  publicDir: "src/public",
  plugins: [
    react({ compiler: true }),
    VitePWA({
      injectRegister: null, // by src/shared/forTheField.ts, once a view of the field is opened
      registerType: "autoUpdate",
      manifest: {
        name: "Leadsman",
        short_name: "Leadsman",
        description: "Lay out gravity-fed water lines, and know before digging whether they run.",
        start_url: "/",
        display: "standalone",
        background_color: "#fbf8ee",
        theme_color: "#16302f",
        icons: [192, 512].map((size) => ({
          src: `/icon-${size}.png`,
          sizes: `${size}x${size}`,
          type: "image/png",
          purpose: "any",
        })),
      },
      strategies: "injectManifest",
      srcDir: "src",
      filename: "sw.ts",
      injectManifest: { globPatterns: ["index.html", "assets/*.{js,css,woff2,svg}", "icon-*.png"] },
    }),
  ],
  server: { proxy: { "/api": "http://127.0.0.1:8317" } },
  build: {
    target: "es2022",
    license: { fileName: "third-party-notices.md" },
    manifest: true, // which script each view fetches, for the test that weighs them
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            {
              name: "react",
              test: /node_modules[\\/](react|react-dom|scheduler|react-router)[\\/]/,
              priority: 2,
            },
            { name: "mui", test: /node_modules[\\/](@mui|@emotion)[\\/]/, priority: 1 },
            {
              name: "small",
              test: /src[\\/]shared[\\/](useSize|figure|ticks|price|duration|heard|numbered)\.ts$/,
            }, // every view needs them
          ],
        },
      },
    },
  },
  test: {
    pool: "threads",
    maxWorkers: 2, // over half of a test is waiting for the server: two at once take two thirds of the time of one
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
          testTimeout: 180_000,
        },
      },
    ],
  },
});
