/** What is done faster for the usual case does just what is done for the others. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import type { Codec } from "#src/codecs/codec.js";
import { listCodec } from "#src/codecs/lists.js";
import { remembered } from "#src/codecs/remembered.js";
import { dateCodec, decimalCodec } from "#src/codecs/scalars.js";
import { pairEntries } from "#src/compare/entries.js";
import { lineEndsIn } from "#src/formats/line-ends.js";
import { eachOnce } from "#src/lists.js";
import { compareText } from "#src/location.js";
import { RowsByText } from "#src/match/rows-by-text.js";
import { Spellings } from "#src/spelling.js";

const codecs: readonly Codec[] = [
  decimalCodec({ point: ",", places: 2 }),
  dateCodec(["D.M.YYYY"]),
  listCodec({ separator: "+", of: decimalCodec({ point: "." }), blanks: true }, "a list"),
];

test("a codec that remembers reads and writes as one that does not, also where it has stopped to remember", () => {
  const text = fc.oneof(fc.stringMatching(/^[0-9+,.]{1,6}$/), fc.constantFrom("1,5", "1+2", "2.2.2026", "no"));
  fc.assert(
    fc.property(fc.array(text, { minLength: 1, maxLength: 60 }), fc.boolean(), (texts, isWorn) => {
      for (const codec of codecs) {
        const own = remembered(codec);
        // Texts that never repeat: it is not worth it any more.
        if (isWorn) for (let at = 0; at < 5_000; at++) own.parse(`${at},${at % 7}`);
        for (const one of [...texts, ...texts]) {
          const value = codec.parse(one);
          assert.deepEqual(own.parse(one), value);
          if (typeof value === "string" || Array.isArray(value))
            assert.deepEqual(own.format(value), codec.format(value));
        }
      }
    }),
    { numRuns: 40 },
  );
});

test("short lists of entries are paired as long ones are", () => {
  const words = fc.array(fc.constantFrom("a", "b", "c", "d"), { maxLength: 7 });
  fc.assert(
    fc.property(words, words, (own, other) => {
      // Others behind them make the lists long, and change nothing of the first ones.
      const more = Array.from({ length: 9 }, (_, at) => `more ${at}`);
      const pair = (rest: readonly string[]) => {
        const [one, two] = [
          [...own, ...rest],
          [...other, ...rest],
        ];
        const paired = pairEntries(
          [...one.keys()],
          [...two.keys()],
          (at) => one[at]!,
          (at) => two[at]!,
        );
        const isFirst = (at: number, of: readonly string[]) => at < of.length;
        return {
          pairs: paired.pairs.filter((each) => isFirst(each.own, own)),
          onlyOwn: paired.onlyOwn,
          onlyOther: paired.onlyOther,
        };
      };
      assert.deepEqual(pair([]), pair(more));
      const { pairs, onlyOwn, onlyOther } = pair([]);
      assert.ok(pairs.every((each) => own[each.own] === other[each.other]));
      assert.equal(pairs.length + onlyOwn.length, own.length);
      assert.equal(pairs.length + onlyOther.length, other.length);
      assert.ok(!onlyOwn.some((one) => onlyOther.some((two) => own[one] === other[two])));
    }),
  );
});

test("line ends are counted wherever they stand", () => {
  fc.assert(
    fc.property(fc.array(fc.stringMatching(/^[a\n]{0,5}$/)), (cells) => {
      assert.equal(lineEndsIn(cells), cells.join("").split("\n").length - 1);
    }),
  );
});

test("what is twice in a list goes from short and from long ones, and the order stays", () => {
  const numbers = fc.oneof(
    fc.array(fc.nat(9), { maxLength: 16 }),
    fc.array(fc.nat(40), { minLength: 17, maxLength: 60 }),
  );
  fc.assert(
    fc.property(numbers, (list) => {
      const given = [...list];
      assert.deepEqual(eachOnce(list), [...new Set(given)]);
      assert.deepEqual(list, given);
    }),
  );
});

test("a text gives the rows that it was added with, be they one or many", () => {
  const added = fc.array(fc.tuple(fc.constantFrom("", "a", "b", "c"), fc.nat(50)), { maxLength: 12 });
  fc.assert(
    fc.property(added, (pairs) => {
      const rows = new RowsByText();
      for (const [text, row] of pairs) rows.add(text, row);
      for (const text of ["", "a", "b", "c", "d"]) {
        const own = pairs.flatMap(([one, row]) => (one === text ? [row] : []));
        assert.deepEqual([rows.of(text) ?? []].flat(), own);
        // Records that may be the same ones are known by their list.
        if (own.length > 1) assert.equal(rows.of(text), rows.of(text));
      }
    }),
  );
});

/** How many letters have to be put in, taken out or changed: the rule as it is written. */
function slips(one: string, other: string): number {
  if (one === "" || other === "") return one.length + other.length;
  const [rest, others] = [one.slice(1), other.slice(1)];
  if (one[0] === other[0]) return slips(rest, others);
  return 1 + Math.min(slips(rest, other), slips(one, others), slips(rest, others));
}

test("the words that are spelt nearest are those that a look at each of them finds", () => {
  const word = fc.stringMatching(/^[abA1 \u0141!]{0,6}$/);
  const fold = (one: string) => one.toLowerCase().replace(/\s+/g, " ").trim();
  let found = 0;
  fc.assert(
    fc.property(fc.array(word, { maxLength: 12 }), fc.array(word, { minLength: 1, maxLength: 4 }), (words, asked) => {
      const spellings = new Spellings(words);
      for (const text of asked) {
        const most = Math.max(2, Math.ceil(text.length / 3));
        const near = words
          .map((one) => ({ one, apart: slips(fold(text), fold(one)) }))
          .filter(({ one, apart }) => apart <= most && Math.abs(one.length - text.length) <= most)
          .sort((a, b) => a.apart - b.apart || compareText(a.one, b.one));
        const wanted = near.slice(0, 3).map(({ one }) => one);
        assert.deepEqual(spellings.nearest(text), wanted);
        found += wanted.length;
      }
    }),
  );
  assert.ok(found > 50, `${found} near words`);
});
