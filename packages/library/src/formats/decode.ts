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

/**
 * @param file for the finding.
 * @param encoding a label of the WHATWG Encoding Standard; it has been checked when the layout was read.
 */
export async function* decodeText(
  bytes: Bytes,
  file: string,
  encoding: string,
  findings: Findings,
): AsyncGenerator<string> {
  let decoder: InstanceType<typeof TextDecoder> | undefined;
  let before = 0;
  let label = encoding;
  for await (const chunk of bytes) {
    if (!decoder) {
      label = encodingByMark(chunk) ?? encoding;
      decoder = new TextDecoder(label, { fatal: true });
    }
    let text: string;
    try {
      text = decoder.decode(chunk, { stream: true });
    } catch {
      findings.add(
        finding("read/wrong-encoding", { encoding: label, byte: before + firstWrongByte(chunk, label) }, { file }),
      );
      return;
    }
    before += chunk.length;
    if (text !== "") yield text;
  }
  try {
    const rest = decoder?.decode();
    if (rest) yield rest;
  } catch {
    findings.add(finding("read/wrong-encoding", { encoding: label, byte: before }, { file }));
  }
}

/** Where in a chunk decoding fails, near enough to look at: halves the chunk until a byte is left. */
function firstWrongByte(chunk: Uint8Array, encoding: string): number {
  let good = 0;
  let bad = chunk.length;
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    try {
      new TextDecoder(encoding, { fatal: true }).decode(chunk.subarray(0, middle), { stream: true });
      good = middle;
    } catch {
      bad = middle;
    }
  }
  return good;
}
