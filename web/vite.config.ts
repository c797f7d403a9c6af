import { fileURLToPath } from "node:url";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  // The placeholder page stays beside the build, so that Go can embed the
  // directory on a clean checkout.
  build: { emptyOutDir: false, assetsInlineLimit: 0, modulePreload: { polyfill: false }, chunkSizeWarningLimit: 1600 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
