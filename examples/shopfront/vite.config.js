import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  base: "./",
  plugins: [react()],
  build: {
    outDir: "dist/app",
    emptyOutDir: true,
    target: "es2022",
    rolldownOptions: { checks: { pluginTimings: false } },
    chunkSizeWarningLimit: 1_000,
  },
});
