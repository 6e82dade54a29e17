/**
 * One file out of a zip, streaming. What a hostile archive tries is stopped with a finding: names that leave their folder,
 * contents that grow without bound, checksums that do not fit.
 */

import { failure, success } from "../findings/result.js";
import { finding, type Result, type Findings } from "../findings/finding.js";
import { usualCaps, type Caps } from "../caps.js";
import { entryOf } from "../checked.js";
import { phrase, type Text } from "../phrases/phrase.js";
import crc32 from "crc-32";
import { Unzip, UnzipInflate } from "fflate";
import { joined } from "./byte-reader.js";
import type { Bytes } from "./decode.js";

/** How many times larger than the bytes read so far the contents may be. Text rarely packs better than 1 to 50. */
const maxRatio = 200;
const freeBytes = 50_000_000;
/** The directory of an archive stands at its end. */
const tailBytes = 1_000_000;
/** How much is unpacked at a time. */
const sliceBytes = 16_384;

/**
 * One file out of a zip archive, as it streams in.
 *
 * @param within the name of the file in the archive; the only file, if left out.
 * @returns its bytes. What is wrong with the archive, or that there is no such file, is in `findings`.
 */
export async function* readZip(
  bytes: Bytes,
  file: string,
  within: string | undefined,
  findings: Findings,
  caps: Caps = usualCaps,
): AsyncGenerator<Uint8Array> {
  const unpacking = new Unpacking(
    (name, before) => (within === undefined ? before.length === 1 : name === within),
    caps,
  );
  for await (const chunk of bytes) {
    for (const part of unpacking.take(chunk)) yield part.bytes;
    if (unpacking.problem !== undefined) break;
  }
  const problem = unpacking.end();
  const { names, found } = unpacking;
  if (problem !== undefined) findings.add(finding("read/zip-broken", { problem }, { file }));
  else if (found === undefined || (within === undefined && names.length > 1))
    findings.add(finding("read/not-in-zip", { name: within ?? "the only file", names: names.slice(0, 10) }, { file }));
}

/** All files of an archive, by their names in it; fails where anything is wrong with it. @param file as findings call it. */
export async function readWholeZip(bytes: Bytes, file: string): Promise<Result<ReadonlyMap<string, Uint8Array>>> {
  const parts = new Map<string, Uint8Array[]>();
  const unpacking = new Unpacking((name) => parts.set(name, []) !== undefined, usualCaps);
  for await (const chunk of bytes) {
    for (const part of unpacking.take(chunk)) entryOf(parts, part.name).push(part.bytes);
    if (unpacking.problem !== undefined) break;
  }
  const problem = unpacking.end();
  if (problem !== undefined) return failure(finding("read/zip-broken", { problem }, { file }));
  return success(new Map([...parts].map(([name, chunks]) => [name, joined(chunks)])));
}

/**
 * Walks through all files of an archive that is in memory.
 *
 * @param see is shown what is unpacked, and stops the walk by answering false.
 * @returns what is wrong with it, if anything is.
 */
export function zipProblem(
  bytes: Uint8Array,
  caps: Caps = usualCaps,
  see: (name: string, bytes: Uint8Array) => boolean = () => true,
): Text | undefined {
  const unpacking = new Unpacking(() => true, caps);
  for (let at = 0; at < bytes.length && unpacking.problem === undefined; at += tailBytes)
    for (const part of unpacking.take(bytes.subarray(at, at + tailBytes)))
      if (!see(part.name, part.bytes)) return undefined;
  return unpacking.end();
}

export function isZip(head: Uint8Array): boolean {
  return head[0] === 0x50 && head[1] === 0x4b && (head[2] === 3 || head[2] === 5);
}

/** Absolute names, drives, and steps upwards. */
export function isUnsafe(name: string): boolean {
  return /^([/\\]|[a-z]:)/i.test(name) || name.split(/[/\\]/).includes("..") || name.includes("\0");
}

class Unpacking {
  problem: Text | undefined;
  /** The files met so far. */
  readonly names: string[] = [];
  readonly #seen = new Set<string>();
  /** The last file that was wanted. */
  found: string | undefined;
  readonly #unzip: Unzip;
  readonly #checks = new Map<string, number>();
  #ready: { readonly name: string; readonly bytes: Uint8Array }[] = [];
  #head: Uint8Array | undefined;
  #tail: Uint8Array = new Uint8Array(0);
  #packed = 0;
  #total = 0;

  /** @param isWanted is asked with a name and all names up to it. */
  constructor(
    isWanted: (name: string, names: readonly string[]) => boolean,
    readonly caps: Caps,
  ) {
    this.#unzip = new Unzip((entry) => {
      const { name } = entry;
      if (isUnsafe(name)) this.problem ??= `the name "${name.slice(0, 80)}" leads out of its folder`;
      if (name.endsWith("/")) return;
      if (this.#seen.has(name)) this.problem ??= phrase('it holds two files of the name "{0}"', name.slice(0, 80));
      this.#seen.add(name);
      if (this.names.push(name) > caps["archive files"])
        this.problem ??= phrase('it holds more than {0} files, the cap "archive files"', caps["archive files"]);
      if (this.problem !== undefined || !isWanted(name, this.names)) return;
      this.found = name;
      this.#checks.set(name, 0);
      entry.ondata = (error, chunk) => {
        if (error) this.problem ??= error.message;
        else this.#unpacked(name, chunk);
      };
      entry.start();
    });
    this.#unzip.register(UnzipInflate);
  }

  #unpacked(name: string, chunk: Uint8Array): void {
    this.#total += chunk.length;
    const most = this.caps["unpacked bytes"];
    if (this.#total > most)
      this.problem ??= phrase('it unpacks to more than {0} bytes, the cap "unpacked bytes"', most);
    if (this.#total > freeBytes && this.#total > this.#packed * maxRatio)
      this.problem ??= phrase('"{0}" unpacks to more than it can hold', name);
    if (this.problem !== undefined) return;
    this.#checks.set(name, crc32.buf(chunk, this.#checks.get(name)));
    this.#ready.push({ name, bytes: chunk });
  }

  /** Small slices: a bomb is stopped before much of it is unpacked. */
  *take(chunk: Uint8Array): Generator<{ readonly name: string; readonly bytes: Uint8Array }> {
    this.#head ??= chunk.slice(0, 4);
    this.#tail =
      chunk.length >= tailBytes ? chunk.subarray(-tailBytes) : joined([this.#tail, chunk]).subarray(-tailBytes);
    for (let at = 0; at < chunk.length && this.problem === undefined; at += sliceBytes) {
      const slice = chunk.subarray(at, at + sliceBytes);
      this.#packed += slice.length;
      try {
        this.#unzip.push(slice, false);
      } catch (error) {
        this.problem ??= (error as Error).message;
      }
      yield* this.#ready;
      this.#ready = [];
    }
  }

  end(): Text | undefined {
    if (!isZip(this.#head ?? new Uint8Array(0))) return "it is not a zip archive";
    if (this.names.length === 0) this.problem ??= "it is empty, or it ends too early";
    const directory = readDirectory(this.#tail);
    for (const [name, check] of this.#checks) {
      if (this.problem !== undefined) break;
      const wanted = directory.get(name);
      if (wanted === undefined) this.problem = "it ends too early";
      else if (wanted !== check) this.problem = `the checksum of "${name}" is wrong, so the file is damaged`;
    }
    return this.problem;
  }
}

/** The checksums in the directory of an archive, by name. */
function readDirectory(tail: Uint8Array): ReadonlyMap<string, number> {
  const view = new DataView(tail.buffer, tail.byteOffset, tail.byteLength);
  const checks = new Map<string, number>();
  for (let at = 0; at + 46 <= tail.length; at++) {
    if (tail[at] !== 0x50 || view.getUint32(at, true) !== 0x02014b50) continue;
    const length = view.getUint16(at + 28, true);
    checks.set(new TextDecoder().decode(tail.subarray(at + 46, at + 46 + length)), view.getInt32(at + 16, true));
  }
  return checks;
}
