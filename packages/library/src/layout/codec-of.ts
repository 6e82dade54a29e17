/** From what a layout says of a cell (`as:`) to its codec, and how the cell names records, if it does. */

import { escapedText, listCodec } from "../codecs/lists.js";
import { betweenCodec, dateCodec, decimalCodec, integerCodec, textCodec, wordsCodec } from "../codecs/scalars.js";
import type { Codec } from "../codecs/codec.js";
import type { FieldType } from "../kind.js";
import type { GivenCodec } from "./schema.js";

export interface CodecChoice {
  readonly codec: Codec;
  readonly list: boolean;
  readonly path: boolean;
  /** `key`, `code`, or `name@en`: how a text in the cell names a record. */
  readonly by: string | undefined;
}

/** What is known of the codecs around the one being built. */
interface Around {
  readonly separators: readonly string[];
  readonly escape: string | undefined;
  readonly leaf: Codec;
}

export function codecOf(given: GivenCodec | undefined, type: FieldType | undefined): CodecChoice {
  return build(given, { separators: [], escape: undefined, leaf: codecOfType(type) });
}

function codecOfType(type: FieldType | undefined): Codec {
  if (type === "decimal") return decimalCodec({ point: "." });
  if (type === "integer") return integerCodec;
  if (type === "flag") return wordsCodec({ yes: "true", no: "false" });
  return textCodec;
}

function build(given: GivenCodec | undefined, around: Around): CodecChoice {
  const single = (codec: Codec, by?: string): CodecChoice => ({ codec, list: false, path: false, by });
  const leaf = around.escape === undefined ? around.leaf : escapedText(around.escape, around.separators);
  if (given === undefined) return single(leaf);
  if (given === "text") return single(around.escape === undefined ? textCodec : leaf);
  if (given === "integer") return single(integerCodec);
  if (given === "decimal") return single(decimalCodec({ point: "." }));
  if ("decimal" in given) return single(decimalCodec({ point: given.decimal, ...given }));
  if ("words" in given)
    return single(
      wordsCodec(Object.fromEntries(Object.entries(given.words).map(([cell, value]) => [cell, String(value)]))),
    );
  if ("date" in given) return single(dateCodec(given.date));
  if ("between" in given) {
    const inner = build(given.of, around);
    return { ...inner, codec: betweenCodec(...given.between, inner.codec) };
  }
  if ("list" in given) {
    const inside = within(around, given.list, given.escape);
    const inner = build(given.of, inside);
    const codec = listCodec(
      { separator: given.list, escape: inside.escape, separators: inside.separators, of: inner.codec },
      `a list of ${inner.codec.takes}`,
    );
    return { ...inner, codec, list: true };
  }
  if ("path" in given) {
    const inside = within(around, given.path, given.escape);
    const inner = build(undefined, inside);
    const codec = listCodec(
      {
        separator: given.path,
        escape: inside.escape,
        separators: inside.separators,
        of: inner.codec,
        root: given.root,
      },
      "a path",
    );
    return { codec, list: false, path: true, by: given.by };
  }
  return single(leaf, given.by);
}

function within(around: Around, separator: string, escape: string | undefined): Around {
  return { separators: [...around.separators, separator], escape: escape ?? around.escape, leaf: around.leaf };
}
