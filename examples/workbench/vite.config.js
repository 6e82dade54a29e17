import { readFileSync, readdirSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import react from "@vitejs/plugin-react";
import { zipSync } from "fflate";
import { defineConfig } from "vite";
import { notices } from "@zest-tier/kit/notices.js";

/** The demo project as one archive beside the page: opened in the same way as one that is dropped. */
function demo() {
  const folder = join(dirname(fileURLToPath(import.meta.resolve("@zest-tier/demo/package.json"))), "clean");
  const files = readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name))
    .sort();
  const source = zipSync(
    Object.fromEntries(files.map((path) => [relative(folder, path), new Uint8Array(readFileSync(path))])),
    { mtime: new Date(1980, 0, 1) },
  );
  return {
    name: "demo",
    buildStart() {
      if (!this.meta.watchMode) this.emitFile({ type: "asset", fileName: "demo.zip", source });
    },
    configureServer(server) {
      server.middlewares.use("/demo.zip", (_request, response) => response.end(source));
    },
  };
}

const ofOthers = notices();

export default defineConfig({
  base: "./",
  plugins: [react({ jsxImportSource: "@zest-tier/kit" }), demo(), ofOthers.page],
  worker: { format: "es", plugins: () => [ofOthers.worker] },
  build: {
    outDir: "dist/app",
    emptyOutDir: true,
    target: "es2022",
    rolldownOptions: { checks: { pluginTimings: false } },
    chunkSizeWarningLimit: 2_000,
  },
});
