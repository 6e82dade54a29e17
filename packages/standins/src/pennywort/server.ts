/** Pennywort over HTTP (description, section 8). Each server has a shop of its own, in memory. */

import { Hono } from "hono";
import { bodyLimit } from "hono/body-limit";
import { publicCatalogue } from "./catalogue.js";
import { maxFileBytes } from "./file.js";
import { importFile } from "./importer.js";
import { maxPictureBytes, TooLarge, unzip } from "./pictures.js";
import { Store } from "./store.js";

export function pennywort(): { readonly app: Hono; readonly close: () => void } {
  const store = new Store();
  const app = new Hono();
  // One byte more gets through, so that the importer itself refuses a file that is too large, in its report.
  const limit = (maxSize: number) =>
    bodyLimit({ maxSize, onError: (context) => context.json({ error: "the body is too large" }, 413) });

  app.post("/pictures", limit(maxPictureBytes), async (context) => {
    try {
      const files = await unzip(new Uint8Array(await context.req.arrayBuffer()));
      for (const [name, bytes] of files) store.savePicture(name, bytes);
      return context.json({ stored: [...files.keys()] });
    } catch (error) {
      if (error instanceof TooLarge) return context.json({ error: "the pictures are too large" }, 413);
      return context.json({ error: "the archive cannot be read" }, 422);
    }
  });
  app.post("/imports/:name", limit(maxFileBytes * 2), async (context) =>
    context.json(importFile(store, context.req.param("name"), new Uint8Array(await context.req.arrayBuffer()))),
  );
  app.get("/catalogue", (context) => context.json(publicCatalogue(store)));
  app.post("/reset", (context) => {
    store.empty();
    return context.json({ empty: true });
  });
  app.notFound((context) => context.json({ error: "there is nothing here" }, 404));
  app.onError((_error, context) => context.json({ error: "the shop failed" }, 500));
  return { app, close: () => store.close() };
}
