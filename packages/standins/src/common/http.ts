/** What all stand-ins have over HTTP: limits, pictures, and what is answered where nothing is. */

import { Hono } from "hono";
import { bodyLimit } from "hono/body-limit";
import { maxPictureBytes, TooLarge, unzip } from "./pictures.js";

export interface PictureStore {
  readonly savePicture: (name: string, bytes: Uint8Array) => void;
  readonly picture: (name: string) => Uint8Array | undefined;
}

/** One byte more than an importer takes gets through, so that it refuses the file itself, in its report. */
export const limit = (maxSize: number) =>
  bodyLimit({ maxSize, onError: (context) => context.json({ error: "the body is too large" }, 413) });

const pictureTypes: Readonly<Record<string, string>> = {
  png: "image/png",
  jpg: "image/jpeg",
  jpeg: "image/jpeg",
  webp: "image/webp",
  gif: "image/gif",
};

export function newApp(store: PictureStore & { readonly empty: () => void }): Hono {
  const app = new Hono();
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
  app.get("/pictures/:name", (context) => {
    const name = context.req.param("name");
    const bytes = store.picture(name);
    if (!bytes) return context.notFound();
    // What it is goes by its name alone; whatever is not known is never shown as a page.
    const type = pictureTypes[/\.(\w+)$/.exec(name)?.[1]?.toLowerCase() ?? ""] ?? "application/octet-stream";
    return context.body(new Uint8Array(bytes), 200, { "content-type": type, "x-content-type-options": "nosniff" });
  });
  app.post("/reset", (context) => {
    store.empty();
    return context.json({ empty: true });
  });
  app.notFound((context) => context.json({ error: "there is nothing here" }, 404));
  app.onError((_error, context) => context.json({ error: "the platform failed" }, 500));
  return app;
}
