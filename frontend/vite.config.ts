import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

import { componentStyles } from "./componentStyles.ts";

/** What a view imports comes with it; listed ahead, the names of all chunks weigh more than the time they save. */
const stylesOnly = (_: string, files: string[], { hostType }: { hostType: "html" | "js" }) =>
  hostType === "html" ? files : files.filter((file) => file.endsWith(".css"));

export default defineConfig({
  plugins: [react(), componentStyles()],
  // The server puts each response's own nonce in this place.
  html: { cspNonce: "BEXI_CSP_NONCE" },
  // Browsers know how to preload by themselves; those that do not only load a little later.
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 2000,
    modulePreload: { polyfill: false, resolveDependencies: stylesOnly },
  },
  server: { port: 5173, strictPort: true, proxy: { "/api": "http://127.0.0.1:8400" } },
});
