/**
 * Bytes to text, as they stream in. UTF-8 unless a byte order mark or the layout says otherwise; bytes that do not fit end the
 * sheet with a finding, never with question marks in the data.
 */

import { finding, type Findings } from "../finding.js";

export type Bytes = AsyncIterable<Uint8Array>;

const marks: readonly { readonly encoding: string; readonly bytes: readonly number[] }[] = [
  { encoding: "utf-8", bytes: [0xef, 0xbb, 0xbf] },
  { encoding: "utf-16le", bytes: [0xff, 0xfe] },
  { encoding: "utf-16be", bytes: [0xfe, 0xff] },
];

/** The encoding that a byte order mark tells of. */
export function encodingByMark(bytes: Uint8Array): string | undefined {
  return marks.find((mark) => mark.bytes.every((byte, at) => bytes[at] === byte))?.encoding;
}

/** As many bytes as the longest mark has. */
const markBytes = 3;

/**
 * All text up to the first byte that does not fit, wherever the chunks are cut.
 *
 * @param file for the finding.
 * @param encoding a label of the WHATWG Encoding Standard; it has been checked when the layout was read.
 */
export async function* decodeText(
  bytes: Bytes,
  file: string,
  encoding: string,
  findings: Findings,
): AsyncGenerator<string> {
  let decoding: Decoding | undefined;
  let head = new Uint8Array(0);
  for await (const chunk of bytes) {
    if (!decoding) {
      head = joined(head, chunk);
      if (head.length < markBytes) continue;
    }
    const next: Uint8Array = decoding ? chunk : head;
    decoding ??= new Decoding(encodingByMark(head) ?? encoding);
    yield* decoding.take(next);
    if (decoding.wrongAt !== undefined) break;
  }
  decoding ??= new Decoding(encodingByMark(head) ?? encoding, head);
  yield* decoding.end();
  if (decoding.wrongAt === undefined) return;
  findings.add(finding("read/wrong-encoding", { encoding: decoding.label, byte: decoding.wrongAt }, { file }));
}

class Decoding {
  readonly #decoder: InstanceType<typeof TextDecoder>;
  #total = 0;
  /** The last bytes taken: those of a character that is not complete are among them. */
  #recent = new Uint8Array(0);
  wrongAt: number | undefined;

  /** @param rest bytes of a file too short to have been begun. */
  constructor(
    readonly label: string,
    readonly rest = new Uint8Array(0),
  ) {
    this.#decoder = new TextDecoder(label, { fatal: true });
  }

  *take(chunk: Uint8Array): Generator<string> {
    try {
      const text = this.#decoder.decode(chunk, { stream: true });
      if (text !== "") yield text;
    } catch {
      // The decoder has forgotten the character it was in: begin there anew.
      const waiting = this.#waiting();
      const all = joined(waiting, chunk);
      const good = goodLength(all, this.label);
      const text = new TextDecoder(this.label, { fatal: true, ignoreBOM: this.#total > 0 }).decode(
        all.subarray(0, good),
        { stream: true },
      );
      this.wrongAt = this.#total - waiting.length + good;
      if (text !== "") yield text;
    }
    this.#total += chunk.length;
    this.#recent = joined(this.#recent, chunk.subarray(-markBytes)).slice(-markBytes);
  }

  *end(): Generator<string> {
    if (this.rest.length > 0) yield* this.take(this.rest);
    if (this.wrongAt !== undefined) return;
    try {
      this.#decoder.decode();
    } catch {
      this.wrongAt = this.#total;
    }
  }

  /** The bytes of a character that was begun and not ended: taken alone, they give no text and no error. */
  #waiting(): Uint8Array {
    const isPaired = this.label.startsWith("utf-16");
    for (let count = Math.min(markBytes, this.#recent.length); count > 0; count--) {
      if (isPaired && (this.#total - count) % 2 !== 0) continue;
      const last = this.#recent.slice(-count);
      try {
        if (new TextDecoder(this.label, { fatal: true, ignoreBOM: true }).decode(last, { stream: true }) === "")
          return last;
      } catch {
        // These bytes begin in the middle of a character.
      }
    }
    return new Uint8Array(0);
  }
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array<ArrayBuffer> {
  const both = new Uint8Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}

/** How many bytes decode without error: halves what is left until a byte is. */
function goodLength(bytes: Uint8Array, encoding: string): number {
  let good = 0;
  let bad = bytes.length;
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    try {
      new TextDecoder(encoding, { fatal: true }).decode(bytes.subarray(0, middle), { stream: true });
      good = middle;
    } catch {
      bad = middle;
    }
  }
  return good;
}
