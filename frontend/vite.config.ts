import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

// The studio is one page; the shop's script, styles and the proof's script are entries of their own.
export default defineConfig({
  base: "/static/built/",
  plugins: [react(), tailwind()],
  build: {
    outDir: "../src/young_fabric/web/static/built",
    emptyOutDir: true,
    manifest: "manifest.json",
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
    rollupOptions: { input: ["index.html", "shop/shop.ts", "shop/proof.ts"] },
  },
  server: {
    proxy: { "/api": "http://127.0.0.1:8000", "/proof": "http://127.0.0.1:8000", "/files": "http://127.0.0.1:8000" },
  },
  test: { environment: "jsdom", testTimeout: 60_000, include: ["studio/**/*.test.{ts,tsx}", "shop/**/*.test.ts"] },
});
