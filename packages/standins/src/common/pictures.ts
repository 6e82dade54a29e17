/** Pictures come in as a zip; only file names count. Sizes are watched while unpacking, not taken from the archive's word. */

import { basename } from "node:path";
import yauzl from "yauzl";

export const maxPictureBytes = 32_000_000;
export class TooLarge extends Error {}

/** @throws TooLarge over the limit; Error when the archive cannot be read. */
export async function unzip(bytes: Uint8Array): Promise<Map<string, Uint8Array>> {
  const archive = await new Promise<yauzl.ZipFile>((resolve, reject) =>
    yauzl.fromBuffer(Buffer.from(bytes), { lazyEntries: true, validateEntrySizes: true }, (error, zip) =>
      error ? reject(error) : resolve(zip),
    ),
  );
  const files = new Map<string, Uint8Array>();
  let total = 0;
  return new Promise((resolve, reject) => {
    archive.on("error", reject);
    archive.on("end", () => resolve(files));
    archive.on("entry", (entry: yauzl.Entry) => {
      if (entry.fileName.endsWith("/")) return archive.readEntry();
      archive.openReadStream(entry, (error, stream) => {
        if (error) return reject(error);
        const parts: Buffer[] = [];
        stream.on("error", reject);
        stream.on("data", (part: Buffer) => {
          total += part.length;
          if (total > maxPictureBytes) {
            stream.destroy();
            return reject(new TooLarge());
          }
          parts.push(part);
        });
        stream.on("end", () => {
          files.set(basename(entry.fileName), Buffer.concat(parts));
          archive.readEntry();
        });
      });
    });
    archive.readEntry();
  });
}
