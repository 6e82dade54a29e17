import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { notices } from "@zest-tier/kit/notices.js";

const ofOthers = notices();

export default defineConfig({
  base: "./",
  plugins: [react({ jsxImportSource: "@zest-tier/kit" }), ofOthers.page],
  build: {
    outDir: "dist/app",
    emptyOutDir: true,
    target: "es2022",
    rolldownOptions: { checks: { pluginTimings: false } },
    chunkSizeWarningLimit: 1_000,
  },
});
