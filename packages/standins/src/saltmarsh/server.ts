/** Saltmarsh over HTTP (description, section 8). Each server holds its own, in memory. */

import type { Hono } from "hono";
import { bytesOf, limit, newApp } from "../common/http.js";
import { catalogueOf, exportOf } from "./catalogue.js";
import { languages, lists, registers } from "./files.js";
import { importList, importRegister, importStories, importTexts } from "./importer.js";
import { maxFileBytes } from "./sheet.js";
import { SaltmarshStore } from "./store.js";

export function saltmarsh(): { readonly app: Hono; readonly close: () => void } {
  const store = new SaltmarshStore();
  const app = newApp(store);
  const nothing = { error: "there is nothing here" };
  app.post("/imports/words/:lang", limit(maxFileBytes * 2), async (context) => {
    const lang = context.req.param("lang");
    if (!languages.includes(lang)) return context.json(nothing, 404);
    return context.json(await importTexts(store, lang, await bytesOf(context)));
  });
  app.post("/imports/stories", limit(maxFileBytes * 2), async (context) =>
    context.json(await importStories(store, await bytesOf(context))),
  );
  app.post("/imports/:file", limit(maxFileBytes * 2), async (context) => {
    const file = context.req.param("file");
    const bytes = await bytesOf(context);
    if (Object.hasOwn(registers, file)) return context.json(await importRegister(store, file, bytes));
    return Object.hasOwn(lists, file) ? context.json(await importList(store, file, bytes)) : context.json(nothing, 404);
  });
  app.get("/exports/:register", (context) => {
    const register = context.req.param("register");
    if (!Object.hasOwn(registers, register)) return context.json(nothing, 404);
    return context.body(exportOf(store, register), 200, { "content-type": "text/tab-separated-values; charset=utf-8" });
  });
  app.get("/catalogue", (context) => context.json(catalogueOf(store)));
  return { app, close: () => store.close() };
}
