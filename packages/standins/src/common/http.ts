/** What all stand-ins have over HTTP: limits, bodies, pictures, and what is answered where nothing is. */

import { basename } from "node:path";
import { Hono, type Context } from "hono";
import { bodyLimit } from "hono/body-limit";
import { maxUnpackedBytes, TooLarge, unzip } from "./archive.js";

export interface PictureStore {
  readonly savePicture: (name: string, bytes: Uint8Array) => void;
  readonly picture: (name: string) => Uint8Array | undefined;
}

/** One byte more than an importer takes gets through, so that it refuses the file itself, in its report. */
export const limit = (maxSize: number) =>
  bodyLimit({ maxSize, onError: (context) => context.json({ error: "the body is too large" }, 413) });

export const bytesOf = async (context: Context): Promise<Uint8Array> => new Uint8Array(await context.req.arrayBuffer());

/** What a body of JSON holds; undefined for what is none, and for `null`. */
export const jsonOf = async (context: Context): Promise<object | undefined> => {
  const given: unknown = await context.req.json().catch(() => undefined);
  return typeof given === "object" && given !== null ? given : undefined;
};
export const notJson = (context: Context) => context.json({ error: "the body holds no JSON object or array" }, 400);

const pictureTypes: Readonly<Record<string, string>> = {
  png: "image/png",
  jpg: "image/jpeg",
  jpeg: "image/jpeg",
  webp: "image/webp",
  gif: "image/gif",
};

export function newApp(store: PictureStore & { readonly empty: () => void }): Hono {
  const app = new Hono();
  app.post("/pictures", limit(maxUnpackedBytes), async (context) => {
    try {
      // Only file names count; folders in the archive do not.
      const files = await unzip(await bytesOf(context));
      for (const [name, bytes] of files) store.savePicture(basename(name), bytes);
      return context.json({ stored: [...files.keys()].map((name) => basename(name)) });
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
