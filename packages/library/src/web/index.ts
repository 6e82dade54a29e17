/** What the library needs of a browser, as `node/` has it for Node: files that were dropped, hashes, an upload folder in memory. */

import { failure, success } from "../findings/result.js";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import type { UploadSink } from "../build/build.js";
import { finding } from "../findings/finding.js";
import { compareText } from "../location.js";
import type { FilesPort, Sha256 } from "../ports.js";
import type { ProjectPorts } from "../workflow/ports.js";

/** SHA-256 without Node and without waiting. */
export const webSha256: Sha256 = () => {
  const hash = sha256.create();
  return { update: (bytes) => void hash.update(bytes), digest: () => bytesToHex(hash.digest()) };
};

/** How much of a file is handed on at a time: what comes between two pieces stays short. */
const pieceBytes = 1 << 18;

/**
 * Files by their paths, as they were dropped: each is read only when it is asked for, piece by piece.
 *
 * A file that has gone, or has changed since it was dropped, gives no bytes: reading it throws, as the browser says it.
 */
export function blobFiles(blobs: ReadonlyMap<string, Blob>): FilesPort {
  return {
    read(path) {
      const blob = blobs.get(plain(path));
      return Promise.resolve(
        blob ? success(piecesOf(blob)) : failure(finding("read/missing-file", {}, { file: path })),
      );
    },
    list(folder) {
      const prefix = plain(folder) === "" ? "" : `${plain(folder)}/`;
      const own = [...blobs].flatMap(([path, { size }]) => {
        const name = path.slice(prefix.length);
        return path.startsWith(prefix) && !name.includes("/") ? [{ name, bytes: size }] : [];
      });
      return Promise.resolve(own.sort((a, b) => compareText(a.name, b.name)));
    },
  };
}

const plain = (path: string): string => path.replace(/^(\.\/)+|\/$/g, "").replace(/^\.$/, "");

async function* piecesOf(blob: Blob): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < blob.size; at += pieceBytes)
    yield new Uint8Array(await blob.slice(at, at + pieceBytes).arrayBuffer());
}

/** An upload folder in memory. Its files are there once it is finished. */
export interface MemoryFolder {
  readonly sink: UploadSink;
  readonly files: ReadonlyMap<string, Blob>;
}

/** Begins an upload folder in memory. */
export function memoryFolder(): MemoryFolder {
  const files = new Map<string, Blob>();
  const written = new Map<string, Blob>();
  return {
    files,
    sink: {
      write(name, chunks) {
        written.set(name, new Blob([...chunks].map((chunk) => new Uint8Array(chunk))));
        return Promise.resolve();
      },
      read: blobFiles(written).read,
      finish() {
        for (const [name, blob] of written) files.set(name, blob);
        return Promise.resolve();
      },
      discard() {
        written.clear();
        return Promise.resolve();
      },
    },
  };
}

/** What a project whose files were dropped needs of a browser. The texts of shipped targets and layouts are the page's to load. */
export const webPorts = (
  blobs: ReadonlyMap<string, Blob>,
  shippedTarget: ProjectPorts["shippedTarget"],
  shippedLayout: ProjectPorts["shippedLayout"],
): ProjectPorts => ({ files: blobFiles(blobs), sha256: webSha256, shippedTarget, shippedLayout });
