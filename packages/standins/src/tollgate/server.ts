/** Tollgate over HTTP (description, section 6). Each server holds its own, in memory. */

import type { Hono } from "hono";
import { bytesOf, jsonOf, limit, newApp, notJson } from "../common/http.js";
import { storePlaces } from "./columns.js";
import { catalogueOf } from "./catalogue.js";
import { importWorkbook } from "./importer.js";
import { maxFileBytes } from "./sheet.js";
import { ThreadedReader } from "./threaded-reader.js";
import { TollgateStore } from "./store.js";

const lists: ReadonlySet<string> = new Set(["sections", "makers", "groups", "taxes", "units", "suppliers", "places"]);

export function tollgate(): { readonly app: Hono; readonly close: () => void } {
  const store = new TollgateStore();
  const reader = new ThreadedReader();
  const app = newApp(store);
  app.post("/lists/:list", limit(1_000_000), async (context) => {
    const list = context.req.param("list");
    if (!lists.has(list)) return context.json({ error: "there is nothing here" }, 404);
    const entries = await jsonOf(context);
    if (!entries) return notJson(context);
    if (!Array.isArray(entries) || entries.some((entry) => typeof entry !== "string" || entry === ""))
      return context.json({ error: "a list is an array of texts" }, 422);
    return context.json({ list, entries: store.setUp(list, entries as string[]) });
  });
  for (const [path, keep] of [
    ["/tests/:name", false],
    ["/imports/:name", true],
  ] as const)
    app.post(path, limit(maxFileBytes * 2), async (context) => {
      const bytes = await bytesOf(context);
      const isWhole = context.req.query("range") === "whole";
      return context.json(await importWorkbook(store, reader, context.req.param("name"), bytes, { keep, isWhole }));
    });
  app.post("/account", limit(1_000), async (context) => {
    const given = await jsonOf(context);
    if (!given) return notJson(context);
    const { tax } = given as { tax?: unknown };
    if (typeof tax !== "string" || tax === "") return context.json({ error: "a tax is a text" }, 422);
    store.accountTax = tax;
    return context.json({ tax });
  });
  app.post("/tills", limit(1_000), async (context) => {
    const given = await jsonOf(context);
    if (!given) return notJson(context);
    const { code, place, count } = given as Record<string, unknown>;
    const version = typeof code === "string" ? store.version(code) : undefined;
    const isKnown = version !== undefined && storePlaces.some((one) => one === place) && Number.isInteger(count);
    if (isKnown)
      store.saveVersion({ ...version, data: { ...version.data, [`Stock ${place as string}`]: String(count) } });
    return context.json({ written: isKnown });
  });
  app.get("/catalogue", (context) => context.json(catalogueOf(store)));
  return {
    app,
    close: () => {
      store.close();
      void reader.close();
    },
  };
}
