import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  // The server puts each response's own nonce in this place.
  html: { cspNonce: "BEXI_CSP_NONCE" },
  // Browsers know how to preload by themselves; those that do not only load a little later.
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 2000, modulePreload: { polyfill: false } },
  server: { port: 5173, strictPort: true, proxy: { "/api": "http://127.0.0.1:8400" } },
});
