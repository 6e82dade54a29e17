import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Kinds } from "#src/kinds.js";
import { problemsOf } from "#src/rehearse/platform/constraints.js";
import { recordsIn, textIn, valueOf, type HeldRecord } from "#src/rehearse/platform/held-record.js";
import { PlatformStore } from "#src/rehearse/platform/store.js";

const kinds = ["category", "product"];
const fields = ["key", "name@en", "name@de", "code"];

/** All that a store holds, in words. */
function shown(store: PlatformStore): unknown {
  const cells = (of: HeldRecord["fields"]): unknown[] => {
    const all: unknown[] = [];
    of.each((field, cell) => {
      const value = valueOf(cell);
      all.push([field, typeof value === "string" ? value : recordsIn(of, field).map(({ number }) => number)]);
    });
    return all;
  };
  return kinds.flatMap((kind) =>
    store.records(kind).map((record) => {
      const entries: unknown[] = [];
      record.entries.each((list, own) => {
        if (own.length > 0) entries.push([list, own.map((entry) => cells(entry))]);
      });
      const children = store.childrenOf(record).map(({ number }) => number);
      return [record.number, record.container?.number, cells(record.fields), entries, children];
    }),
  );
}

const some = fc.nat(4);
const step = fc.oneof(
  fc.record({
    do: fc.constant("create" as const),
    kind: fc.constantFrom(...kinds),
    key: fc.constantFrom("a", "b", "c"),
  }),
  fc.record({
    do: fc.constant("set" as const),
    at: some,
    field: fc.constantFrom(...fields),
    text: fc.constantFrom("", "a", "b"),
  }),
  fc.record({ do: fc.constant("lead" as const), at: some, to: some }),
  fc.record({
    do: fc.constant("entries" as const),
    at: some,
    texts: fc.array(fc.constantFrom("1", "2"), { maxLength: 2 }),
  }),
  fc.record({ do: fc.constant("contain" as const), at: some, to: some }),
  fc.record({ do: fc.constantFrom("release" as const, "remove" as const), at: some }),
  fc.constantFrom({ do: "mark" as const }, { do: "back" as const }),
  fc.constantFrom({ do: "mark" as const }, { do: "close" as const }, { do: "watch" as const }),
);

test("going back to a mark leaves what was there then, and what is found is what is there", () => {
  fc.assert(
    fc.property(fc.array(step, { minLength: 20, maxLength: 90 }), (steps) => {
      const store = new PlatformStore();
      const made: HeldRecord[] = [];
      const marks: { readonly mark: number; readonly then: unknown }[] = [];
      const recordAt = (at: number): HeldRecord | undefined => {
        const there = made.filter(({ isThere }) => isThere);
        return there[at % Math.max(1, there.length)];
      };
      for (const one of steps) {
        const record = "at" in one ? recordAt(one.at) : undefined;
        const other = "to" in one ? recordAt(one.to) : undefined;
        if (one.do === "create") made.push(store.create(one.kind, { key: one.key }));
        else if (one.do === "watch") store.watch();
        else if (one.do === "mark") marks.push({ mark: store.mark(), then: shown(store) });
        // What lies behind the last mark is closed as a whole: no later mark is gone back to then.
        else if (one.do === "close" && marks.length > 0) store.close(marks[marks.length - 1]!.mark);
        else if (one.do === "back") {
          const last = marks.pop();
          if (!last) continue;
          store.back(last.mark);
          assert.deepEqual(shown(store), last.then);
        }
        if (!record) continue;
        if (one.do === "set") store.set(record, one.field, one.text);
        if (one.do === "lead" && other) store.set(record, "parent", [other]);
        if (one.do === "release") store.release(record);
        if (one.do === "remove") store.remove(record);
        if (one.do === "contain" && other && other.number < record.number) store.contain(record, other);
        if (one.do === "entries")
          store.setEntries(
            record,
            "prices",
            one.texts.map((text) => {
              const entry = store.newEntry("price");
              entry.set("amount", text);
              return entry;
            }),
          );
      }
      for (const kind of kinds)
        for (const field of fields)
          for (const text of ["a", "b", "c"]) {
            const wanted = store.records(kind).filter((record) => textIn(record.fields, field) === text);
            const found = store.find(kind, field, text);
            assert.deepEqual(new Set(found), new Set(wanted));
            assert.equal(store.findWhere(kind, field, text, () => true) !== undefined, wanted.length > 0);
          }
    }),
    { numRuns: 500 },
  );
});

test("two variants are alike by the names that made their values, whatever other names were there first", () => {
  const store = new PlatformStore();
  const product = store.create("product", { key: "p" });
  const axis = store.create("axis", { owner: product });
  store.set(product, "axes", [axis]);
  const variantNamed = (names: Readonly<Record<string, string>>): void => {
    const variant = store.create("variant", { container: product });
    const value = store.create("value", { owner: variant, container: axis });
    for (const [field, name] of Object.entries(names)) store.set(value, field, name);
    store.set(variant, "values", [value]);
  };
  const problems = (): string[] =>
    problemsOf(product, store, new Kinds(), { isAlone: true, besideParents: new Set(), axisLanguage: "en" });
  variantNamed({ "name@de": "Rot", "name@en": "Red" });
  variantNamed({ "name@en": "Green" });
  assert.deepEqual(problems(), []);
  variantNamed({ "name@en": "Red" });
  assert.deepEqual(problems(), ["two variants are alike"]);
});
