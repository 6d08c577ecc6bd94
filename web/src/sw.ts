/// <reference lib="webworker" />
/**
 * The service worker: keeps the page's own files on the device, so that it opens without a connection. While the server
 * answers within a few seconds, the page comes from there; answers to what a page asks are kept by the page itself.
 */
import { cleanupOutdatedCaches, PrecacheFallbackPlugin, precacheAndRoute } from "workbox-precaching";
import { registerRoute } from "workbox-routing";
import { NetworkOnly } from "workbox-strategies";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

const LONGEST_WAIT_S = 4;
const PAGE = "/index.html";

precacheAndRoute(self.__WB_MANIFEST, { directoryIndex: "" });
cleanupOutdatedCaches();
registerRoute(
  ({ request, url }) => request.mode === "navigate" && !url.pathname.startsWith("/api/"),
  new NetworkOnly({
    networkTimeoutSeconds: LONGEST_WAIT_S,
    plugins: [new PrecacheFallbackPlugin({ fallbackURL: PAGE })],
  }),
);
self.addEventListener("install", () => void self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
