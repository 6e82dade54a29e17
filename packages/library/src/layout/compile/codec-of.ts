/** From what a layout states for a cell (`as:`) to its codec, and how the cell names records, if it does. */

import { present } from "../../checked.js";
import { escaped, listCodec } from "../../codecs/lists.js";
import { remembered } from "../../codecs/remembered.js";
import { markupCodec } from "../../codecs/markup.js";
import { measureCodec } from "../../codecs/measures.js";
import { partsCodec, quantityCodec } from "../../codecs/parts.js";
import {
  betweenCodec,
  dateCodec,
  decimalCodec,
  integerCodec,
  textCodec,
  codeWordsCodec,
} from "../../codecs/scalars.js";
import type { Codec } from "../../codecs/codec.js";
import type { FieldType } from "../../kind.js";
import type { GivenCodec, GivenPart } from "../schema.js";
import { phrase, type Text } from "../../phrases/phrase.js";

export interface CodecChoice {
  readonly codec: Codec;
  readonly list: boolean;
  readonly path: boolean;
  /** `key`, `code`, or `name@en`: how a text in the cell names a record. */
  readonly by: string | undefined;
  /** What the parts of a cell are, where it has parts. */
  readonly parts: readonly PartChoice[] | undefined;
  /** What is wrong with it. */
  readonly mistake?: Text | undefined;
}

/** One part: the field that it feeds, as written, and how its own text is read. */
export interface PartChoice extends CodecChoice {
  readonly field: string;
}

/** The type of a part's field, by its name as written; undefined for references and contained records. */
export type TypeOfPart = (field: string) => FieldType | undefined;

/** What is known of the codecs around the one being built. */
interface Around {
  readonly separators: readonly string[];
  readonly escape: string | undefined;
  readonly leaf: Codec;
  readonly typeOfPart: TypeOfPart;
}

export function codecOf(
  given: GivenCodec | undefined,
  type: FieldType | undefined,
  typeOfPart: TypeOfPart = () => undefined,
): CodecChoice {
  const choice = build(given, { separators: [], escape: undefined, leaf: codecOfType(type), typeOfPart });
  return choice.codec === textCodec ? choice : { ...choice, codec: remembered(choice.codec) };
}

function codecOfType(type: FieldType | undefined): Codec {
  if (type === "decimal") return decimalCodec({ point: "." });
  if (type === "integer") return integerCodec;
  if (type === "flag") return codeWordsCodec({ yes: "true", no: "false" });
  if (type === "date") return dateCodec(["YYYY-MM-DD"]);
  return textCodec;
}

function build(given: GivenCodec | undefined, around: Around): CodecChoice {
  const single = (codec: Codec, by?: string): CodecChoice => ({
    codec,
    list: false,
    path: false,
    by,
    parts: undefined,
  });
  const leaf = (codec: Codec, by?: string): CodecChoice =>
    single(around.escape === undefined ? codec : escaped(around.escape, around.separators, codec), by);
  if (given === undefined) return leaf(around.leaf);
  if (given === "text") return leaf(textCodec);
  if (given === "integer") return leaf(integerCodec);
  if (given === "decimal") return leaf(decimalCodec({ point: "." }));
  if ("measure" in given)
    return leaf(measureCodec({ units: given.measure, point: given.decimal ?? ".", bare: given.bare }));
  if ("decimal" in given) return leaf(decimalCodec({ point: given.decimal, ...given }));
  if ("code words" in given)
    return leaf(
      codeWordsCodec(
        Object.fromEntries(Object.entries(given["code words"]).map(([cell, value]) => [cell, String(value)])),
      ),
    );
  if ("date" in given) return leaf(dateCodec(typeof given.date === "string" ? [given.date] : given.date));
  if ("markup" in given) return leaf(markupCodec(given["other elements"] === "dropped"));
  if ("between" in given) {
    const inner = build(given.of, around);
    return { ...inner, codec: betweenCodec(...given.between, inner.codec) };
  }
  if ("list" in given) {
    const inside = within(around, given.list, given.escape);
    const inner = build(given.of, inside);
    const codec = listCodec(
      {
        separator: given.list,
        escape: inside.escape,
        of: inner.codec,
        blanks: given.blanks,
      },
      typeof given.of === "object" && "path" in given.of
        ? phrase('paths: levels separated by "{0}", paths by "{1}"', given.of.path, given.list)
        : phrase('a list separated by "{0}": {1}', given.list, inner.codec.takes),
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
        of: inner.codec,
        root: given.root,
      },
      phrase('a path, levels separated by "{0}"', given.path),
    );
    return { ...single(codec, given.by), path: true };
  }
  if ("parts" in given) {
    const inside = within(around, given.parts, given.escape);
    const parts = given.holds.map((part) => partOf(part, inside));
    const codec = partsCodec({
      separator: given.parts,
      escape: inside.escape,
      parts: given.holds.map((part, at) => (isEnding(part) ? { endings: endingsOf(part) } : parts[at]!.codec)),
    });
    const mistake = parts.find((part) => part.mistake !== undefined)?.mistake;
    return { ...single(codec), parts, mistake: mistake ?? endingMistake(given.holds, inside.separators) };
  }
  if ("quantity" in given) {
    const parts = given.holds.map((part) => partOf(part, around));
    const numbers = parts.map(({ field }) => isNumber(around.typeOfPart(field)));
    const numberAt = numbers.indexOf(true);
    const mistake = given.holds.some(isEnding)
      ? phrase('an "ending" needs "parts"')
      : quantityMistake(numbers, given.side);
    // Without a side, the order of the two is their order in the text.
    const first = given.side === undefined ? numberAt === 0 : given.side === "before";
    const thing = present(parts[numberAt === 1 ? 0 : 1]).codec;
    const codec = quantityCodec({ mark: given.quantity, first, numberAt: numberAt === 1 ? 1 : 0, of: thing });
    return { ...single(codec), parts, mistake };
  }
  return leaf(around.leaf, given.by);
}

const isNumber = (type: FieldType | undefined): boolean => type === "integer" || type === "decimal";

function quantityMistake([first, second]: readonly boolean[], side: "before" | "behind" | undefined): Text | undefined {
  if (first === second) return phrase('one of the two fields of "quantity" has to be a number');
  if (second && side === "before")
    return phrase('"side" is "before", but the quantity is the second of the two fields');
  return undefined;
}

interface EndingGiven {
  readonly field: string;
  readonly ending: Record<string, string | boolean | number>;
}

const isEnding = (given: GivenPart): given is EndingGiven => typeof given === "object" && given.ending !== undefined;

const endingsOf = ({ ending }: EndingGiven): Readonly<Record<string, string>> =>
  Object.fromEntries(Object.entries(ending).map(([text, value]) => [text, String(value)]));

function endingMistake(holds: readonly GivenPart[], separators: readonly string[]): Text | undefined {
  for (const [at, part] of holds.entries()) {
    if (!isEnding(part)) continue;
    const before = holds[at - 1];
    if (before === undefined || isEnding(before)) return phrase('an "ending" needs a part of its own before it');
    const holding = Object.keys(part.ending).find((text) => separators.some((one) => text.includes(one)));
    if (holding !== undefined) return phrase('the ending "{0}" holds a separator', holding);
  }
  return undefined;
}

function partOf(given: GivenPart, around: Around): PartChoice {
  if (isEnding(given)) return { ...build({ "code words": given.ending }, around), field: given.field };
  const { field, as } = typeof given === "string" ? { field: given, as: undefined } : given;
  return { ...build(as, { ...around, leaf: codecOfType(around.typeOfPart(field)) }), field };
}

function within(around: Around, separator: string, escape: string | undefined): Around {
  return { ...around, separators: [...around.separators, separator], escape: escape ?? around.escape };
}
