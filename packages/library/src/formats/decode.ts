/**
 * Bytes to text, as they stream in. A byte order mark tells the encoding, else the layout, else the bytes themselves: zeros of UTF-16,
 * UTF-8 as long as it fits, then a guess that is shown. Bytes that do not fit end the sheet with a finding, never with question
 * marks in the data.
 */

import { finding, type Findings } from "../findings/finding.js";
import { ByteReader, joined } from "./byte-reader.js";
import { encodingByZeros, guessEncoding } from "./guess-encoding.js";

export type Bytes = AsyncIterable<Uint8Array>;

const marks: readonly { readonly encoding: string; readonly bytes: readonly number[] }[] = [
  { encoding: "utf-8", bytes: [0xef, 0xbb, 0xbf] },
  { encoding: "utf-16le", bytes: [0xff, 0xfe] },
  { encoding: "utf-16be", bytes: [0xfe, 0xff] },
];

/** Whether a label is one of the WHATWG Encoding Standard that this machine decodes. */
export function knownEncoding(label: string): boolean {
  try {
    new TextDecoder(label);
    return true;
  } catch {
    return false;
  }
}

/** The encoding that a byte order mark tells of. */
export function encodingByMark(bytes: Uint8Array): string | undefined {
  return marks.find((mark) => mark.bytes.every((byte, at) => bytes[at] === byte))?.encoding;
}

/** As many bytes as the longest mark has. */
const markBytes = 3;
const headBytes = 4_096;
/** How much is looked at for a guess. */
const sampleBytes = 65_536;

/** Text as it comes. */
export interface TextPieces extends AsyncIterable<string> {
  /** Once all pieces are taken: whether the bytes stopped fitting their encoding before the end. */
  readonly isCutShort?: boolean;
}

/**
 * All text up to the first byte that does not fit, wherever the chunks are cut.
 *
 * @param file for the finding.
 * @param encoding a label of the WHATWG Encoding Standard, checked when the layout was read; undefined to find it out.
 * @param tell receives the encoding, given or found; again where a guess takes the place of UTF-8.
 */
export function decodeText(
  bytes: Bytes,
  file: string,
  encoding: string | undefined,
  findings: Findings,
  tell: (encoding: string) => void = () => undefined,
): TextPieces {
  const pieces = {
    isCutShort: false,
    async *[Symbol.asyncIterator](): AsyncGenerator<string> {
      pieces.isCutShort = yield* piecesOf(bytes, file, encoding, findings, tell);
    },
  };
  return pieces;
}

/** @returns in the end whether the bytes stopped fitting their encoding. */
async function* piecesOf(
  bytes: Bytes,
  file: string,
  encoding: string | undefined,
  findings: Findings,
  tell: (encoding: string) => void,
): AsyncGenerator<string, boolean> {
  const reader = new ByteReader(bytes);
  const head = await reader.peek(headBytes);
  const told = encodingByMark(head) ?? encoding ?? encodingByZeros(head);
  const decoding = new Decoding(told ?? "utf-8");
  tell(decoding.label);
  yield* decodeAll(reader, decoding);
  if (decoding.wrongAt === undefined) return false;
  // Text that was ASCII up to here reads the same in every encoding that a guess can give.
  if (told !== undefined || decoding.chars !== decoding.goodBytes) {
    findings.add(finding("read/wrong-encoding", { encoding: decoding.label, byte: decoding.wrongAt }, { file }));
    return true;
  }
  reader.unread(decoding.rest);
  const guess = guessEncoding(await reader.peek(sampleBytes));
  findings.add(finding("read/encoding-guessed", { encoding: guess }, { file }));
  const other = new Decoding(guess);
  tell(guess);
  yield* decodeAll(reader, other);
  if (other.wrongAt === undefined) return false;
  const byte = decoding.goodBytes + other.wrongAt;
  findings.add(finding("read/wrong-encoding", { encoding: guess, byte }, { file }));
  return true;
}

async function* decodeAll(reader: ByteReader, decoding: Decoding): AsyncGenerator<string> {
  for (let chunk = await reader.next(); chunk; chunk = await reader.next()) {
    yield* decoding.take(chunk);
    if (decoding.wrongAt !== undefined) return;
  }
  decoding.end();
}

class Decoding {
  readonly #decoder: InstanceType<typeof TextDecoder>;
  #total = 0;
  /** The last bytes taken: those of a character that is not complete are among them. */
  #recent = new Uint8Array(0);
  /** How many characters were given out, and from how many bytes. */
  chars = 0;
  goodBytes = 0;
  wrongAt: number | undefined;
  /** From the first byte that does not fit on: what was taken and not given out. */
  rest: Uint8Array = new Uint8Array(0);

  constructor(readonly label: string) {
    this.#decoder = new TextDecoder(label, { fatal: true });
  }

  *take(chunk: Uint8Array): Generator<string> {
    try {
      const text = this.#decoder.decode(chunk, { stream: true });
      this.chars += text.length;
      if (text !== "") yield text;
    } catch {
      // The decoder has forgotten the character it was in: begin there anew.
      const waiting = this.#waiting();
      const all = joined([waiting, chunk]);
      const good = goodLength(all, this.label);
      const text = new TextDecoder(this.label, { fatal: true, ignoreBOM: this.#total > 0 }).decode(
        all.subarray(0, good),
        { stream: true },
      );
      this.wrongAt = this.#total - waiting.length + good;
      // A character that was begun and is not what it seemed has given no text.
      const begun = this.label === "utf-8" ? good - new TextEncoder().encode(text).length : 0;
      this.goodBytes = this.wrongAt - begun;
      this.rest = all.subarray(good - begun);
      this.chars += text.length;
      if (text !== "") yield text;
    }
    this.#total += chunk.length;
    this.#recent = joined([this.#recent, chunk.subarray(-markBytes)]).slice(-markBytes);
  }

  end(): void {
    try {
      this.#decoder.decode();
    } catch {
      this.wrongAt = this.#total;
      this.rest = this.#waiting();
      this.goodBytes = this.#total - this.rest.length;
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
