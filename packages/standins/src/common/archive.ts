/** Archives that are sent in. Sizes are watched while unpacking, not taken from the archive's word. */

import yauzl from "yauzl";

export const maxUnpackedBytes = 32_000_000;
const maxEntries = 10_000;

/** More entries, or more bytes, than are taken. */
export class TooLarge extends Error {}

/**
 * All files of an archive, by their names in it.
 *
 * @throws TooLarge over the limits; Error when the archive cannot be read, or two of its files have one name.
 */
export async function unzip(bytes: Uint8Array): Promise<Map<string, Uint8Array>> {
  const archive = await new Promise<yauzl.ZipFile>((resolve, reject) =>
    yauzl.fromBuffer(Buffer.from(bytes), { lazyEntries: true, validateEntrySizes: true }, (error, zip) =>
      error ? reject(error) : resolve(zip),
    ),
  );
  if (archive.entryCount > maxEntries) throw new TooLarge();
  const files = new Map<string, Uint8Array>();
  let total = 0;
  return new Promise((resolve, reject) => {
    archive.on("error", reject);
    archive.on("end", () => resolve(files));
    archive.on("entry", (entry: yauzl.Entry) => {
      if (entry.fileName.endsWith("/")) return archive.readEntry();
      if (files.has(entry.fileName)) return reject(new Error(`two files are called ${entry.fileName}`));
      archive.openReadStream(entry, (error, stream) => {
        if (error) return reject(error);
        const parts: Buffer[] = [];
        stream.on("error", reject);
        stream.on("data", (part: Buffer) => {
          total += part.length;
          if (total > maxUnpackedBytes) {
            stream.destroy();
            return reject(new TooLarge());
          }
          parts.push(part);
        });
        stream.on("end", () => {
          files.set(entry.fileName, Buffer.concat(parts));
          archive.readEntry();
        });
      });
    });
    archive.readEntry();
  });
}
