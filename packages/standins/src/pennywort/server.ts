/** Pennywort over HTTP (description, section 8). Each server has a shop of its own, in memory. */

import type { Hono } from "hono";
import { bytesOf, limit, newApp } from "../common/http.js";
import { publicCatalogue } from "./catalogue.js";
import { maxFileBytes } from "./file.js";
import { importFile } from "./importer.js";
import { PennywortStore } from "./store.js";

export function pennywort(): { readonly app: Hono; readonly close: () => void } {
  const store = new PennywortStore();
  const app = newApp(store);
  app.post("/imports/:name", limit(maxFileBytes * 2), async (context) =>
    context.json(await importFile(store, context.req.param("name"), await bytesOf(context))),
  );
  app.get("/catalogue", (context) => context.json(publicCatalogue(store)));
  return { app, close: () => store.close() };
}
