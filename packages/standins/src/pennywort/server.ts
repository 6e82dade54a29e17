/** Pennywort over HTTP (description, section 8). Each server has a shop of its own, in memory. */

import type { Hono } from "hono";
import { bytesOf, jsonOf, limit, newApp, notJson } from "../common/http.js";
import { publicCatalogue } from "./catalogue.js";
import { maxFileBytes } from "./file.js";
import { importFile } from "./importer.js";
import { PennywortStore, shopLanguages } from "./store.js";

export function pennywort(): { readonly app: Hono; readonly close: () => void } {
  const store = new PennywortStore();
  const app = newApp(store);
  app.post("/imports/:name", limit(maxFileBytes * 2), async (context) =>
    context.json(await importFile(store, context.req.param("name"), await bytesOf(context))),
  );
  app.post("/account", limit(1_000), async (context) => {
    const given = await jsonOf(context);
    if (!given) return notJson(context);
    const wanted = JSON.stringify((given as { languages?: unknown }).languages);
    const languages = shopLanguages.find((one) => JSON.stringify(one) === wanted);
    if (!languages) return context.json({ error: "languages are en, de, or both" }, 422);
    if (!store.speak(languages)) return context.json({ error: "the shop is not empty" }, 409);
    return context.json({ languages });
  });
  app.get("/catalogue", (context) => context.json(publicCatalogue(store)));
  return { app, close: () => store.close() };
}
