import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, type Target } from "#src/index.js";
import {
  findRounds,
  findSequence,
  needsGraph,
  orderByNeeds,
  planImport,
  verifyPlan,
  type Placement,
} from "#src/parts.js";
import { splitIntoBatches } from "#src/plan/batches.js";
import { reportCycles } from "#src/plan/cycles.js";
import { countLate, exactUpTo, orderWithFewestLate } from "#src/plan/feedback.js";
import { compareCosts, type Cost } from "#src/plan/sequence.js";
import type { Demand } from "#src/target/slot.js";
import { one, pennywort, rangeCsv, rangeLayout, read, single } from "./support.js";

const demands: readonly Demand[] = ["anywhere", "same file", "earlier row", "earlier file", "earlier step"];

/** Every assignment of placements to uploads is tried, with every choice of where ids are collected: the least cost, by another way. */
function leastByTrying(placements: readonly Placement[], slotCount: number, most: number): Cost | undefined {
  let best: Cost | undefined;
  const count = placements.length;
  const tryWith = (slots: readonly number[], collected: readonly boolean[]): void => {
    const assign = (at: number, where: readonly number[]): void => {
      if (at < count) {
        slots.forEach((slot, upload) => placements[at]!.slots.includes(slot) && assign(at + 1, [...where, upload]));
        return;
      }
      const fits = placements.every((placement, own) =>
        placement.needs.every(({ placement: other, demand }) => {
          const [mine, its] = [where[own]!, where[other]!];
          if (demand === "earlier file") return its < mine;
          if (demand === "earlier step") return collected.some((is, upload) => is && upload > its && upload <= mine);
          return its <= mine;
        }),
      );
      if (!fits || slots.some((_, upload) => !where.includes(upload))) return;
      const postponed = placements.filter((placement, own) =>
        placement.postponedIn.includes(slots[where[own]!]!),
      ).length;
      const cost = { collections: collected.filter(Boolean).length, uploads: slots.length, postponed };
      if (!best || compareCosts(cost, best) < 0) best = cost;
    };
    assign(0, []);
  };
  const sequences = (slots: readonly number[], collected: readonly boolean[]): void => {
    if (slots.length > 0) tryWith(slots, collected);
    if (slots.length === most) return;
    for (let slot = 0; slot < slotCount; slot++)
      for (const collect of [false, true]) sequences([...slots, slot], [...collected, collect]);
  };
  sequences([], []);
  return best;
}

test("finds a sequence as cheap as the best of all that there are", () => {
  const placement = (count: number) =>
    fc.record({
      name: fc.constant("p"),
      slots: fc.uniqueArray(fc.nat(2), { minLength: 1, maxLength: 2 }),
      postponedIn: fc.uniqueArray(fc.nat(2), { maxLength: 1 }),
      needs: fc.array(fc.record({ placement: fc.nat(count - 1), demand: fc.constantFrom(...demands) }), {
        maxLength: 2,
      }),
    });
  let found = 0;
  fc.assert(
    fc.property(fc.array(placement(3), { minLength: 3, maxLength: 3 }), (placements) => {
      const mine = findSequence(placements, 3);
      const best = leastByTrying(placements, 3, 3);
      if (best) assert.deepEqual(mine?.cost, best);
      else assert.ok(!mine || mine.steps.length > 3);
      found += Number(best !== undefined);
    }),
    { numRuns: 600 },
  );
  assert.ok(found > 50, `only ${found} of the cases had an answer`);
});

test("collects ids once where one collection serves two uploads", () => {
  const later = { slots: [1], postponedIn: [], needs: [{ placement: 0, demand: "earlier step" as const }] };
  const sequence = findSequence(
    [
      { name: "a", slots: [0], postponedIn: [], needs: [] },
      { name: "b", ...later },
      { name: "c", ...later, slots: [2] },
    ],
    3,
  );
  assert.deepEqual(sequence?.cost, { collections: 1, uploads: 3, postponed: 0 });
});

test("finds no sequence where two need each other in an earlier file", () => {
  const need = (placement: number) => [{ placement, demand: "earlier file" as const }];
  assert.equal(
    findSequence(
      [
        { name: "a", slots: [0], postponedIn: [], needs: need(1) },
        { name: "b", slots: [0], postponedIn: [], needs: need(0) },
      ],
      1,
    ),
    undefined,
  );
});

const graphOf = (size: number, edges: readonly (readonly [number, number])[]) =>
  needsGraph(
    size,
    Int32Array.from(edges, ([from]) => from),
    Int32Array.from(edges, ([, to]) => to),
  );

test("puts every record after what it needs, and finds exactly the cycles there are", () => {
  const edges = fc.array(fc.tuple(fc.nat(11), fc.nat(11)), { maxLength: 25 });
  fc.assert(
    fc.property(edges, (given) => {
      const { order, component, cycles } = orderByNeeds(graphOf(12, given));
      assert.deepEqual(
        [...order].sort((a, b) => a - b),
        Array.from({ length: 12 }, (_, node) => node),
      );
      const location = [...order].reduce<number[]>((all, node, at) => ((all[node] = at), all), []);
      const reach = Array.from({ length: 12 }, () => new Set<number>());
      for (let again = true; again;) {
        again = false;
        for (const [from, to] of given)
          for (const next of [to, ...reach[to]!]) if (!reach[from]!.has(next)) again = !!reach[from]!.add(next);
      }
      for (const [from, to] of given) if (!reach[to]!.has(from)) assert.ok(location[to]! < location[from]!);
      const onCycle = Array.from({ length: 12 }, (_, node) => node).filter((node) => reach[node]!.has(node));
      assert.deepEqual(
        cycles.flat().sort((a, b) => a - b),
        onCycle,
      );
      for (const a of onCycle)
        for (const b of onCycle) assert.equal(component[a] === component[b], reach[a]!.has(b) && reach[b]!.has(a));
    }),
  );
});

test("orders a chain and a cycle of a million without running out of stack", () => {
  const chain = Int32Array.from({ length: 999_999 }, (_, at) => at);
  const { order } = orderByNeeds(
    needsGraph(
      1_000_000,
      chain,
      chain.map((at) => at + 1),
    ),
  );
  assert.equal(order[0], 999_999);
  const all = Int32Array.from({ length: 1_000_000 }, (_, at) => at);
  assert.equal(
    orderByNeeds(
      needsGraph(
        1_000_000,
        all,
        all.map((at) => (at + 1) % 1_000_000),
      ),
    ).cycles.length,
    1,
  );
});

test("postpones as few links of a circle as the best order of all", () => {
  const needs = fc
    .integer({ min: 2, max: 6 })
    .chain((size) =>
      fc.array(fc.uniqueArray(fc.nat(size - 1), { maxLength: 3 }), { minLength: size, maxLength: size }),
    );
  const permutations = (rest: readonly number[]): number[][] =>
    rest.length === 0
      ? [[]]
      : rest.flatMap((one) => permutations(rest.filter((other) => other !== one)).map((tail) => [one, ...tail]));
  fc.assert(
    fc.property(needs, (given) => {
      const best = Math.min(...permutations([...given.keys()]).map((order) => countLate(order, given)));
      assert.equal(countLate(orderWithFewestLate(given), given), best);
    }),
    { numRuns: 100 },
  );
});

test("orders a circle too large for the exact way with one late link", () => {
  const ring = Array.from({ length: exactUpTo + 8 }, (_, at) => [(at + 1) % (exactUpTo + 8)]);
  assert.equal(countLate(orderWithFewestLate(ring), ring), 1);
});

test("splits without losing, doubling or overfilling, and keeps what is linked together where it fits", () => {
  const records = Array.from({ length: 20 }, (_, at) => at);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(19), fc.nat(19)), { maxLength: 12 }),
      fc.integer({ min: 1, max: 8 }),
      fc.integer({ min: 10, max: 60 }),
      (linked, products, bytes) => {
        const weight = (record: number) => 1 + (record % 13);
        const { batches, tooLarge } = splitIntoBatches(records, linked, { products, bytes }, weight, 5);
        assert.deepEqual(
          [...batches.flat(), ...tooLarge].sort((a, b) => a - b),
          records,
        );
        for (const batch of batches) {
          assert.ok(batch.length <= products && 5 + batch.reduce((sum, record) => sum + weight(record), 0) <= bytes);
          assert.deepEqual(
            batch,
            [...batch].sort((a, b) => a - b),
          );
        }
      },
    ),
  );
  assert.deepEqual(splitIntoBatches([0, 1, 2, 3], [[0, 3]], { products: 2 }, () => 0, 0).batches, [
    [0, 3],
    [1, 2],
  ]);
});

async function planned(rows: readonly Record<string, string>[], target: Target) {
  const { catalogue, findings } = await read([{ layout: rangeLayout, csv: rangeCsv(...rows) }]);
  const plan = findings.took(
    planImport(catalogue, target, { bytesOf: () => 100, headerBytes: () => 10, pictures: [] }),
  );
  return { catalogue, plan: plan!, findings };
}

test("makes plans that hold, for products linked in any way, under each demand and limit", async () => {
  const links = fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { maxLength: 20 });
  await fc.assert(
    fc.asyncProperty(
      links,
      fc.integer({ min: 1, max: 12 }),
      fc.constantFrom("anywhere", "same file", "earlier row"),
      async (given, limit, demand) => {
        const rows = Array.from({ length: 10 }, (_, at) => {
          const to = new Set(
            given.filter(([from, other]) => from === at && other !== at).map(([, other]) => `C-p${other}`),
          );
          return single(`p${at}`, { "Goes with": [...to].join(", ") });
        });
        const target = pennywort((text) =>
          text
            .replace("products: 120", `products: ${limit}`)
            .replace("product.relations: same file", `product.relations: ${demand}`),
        );
        const { catalogue, plan } = await planned(rows, target);
        assert.deepEqual(verifyPlan(catalogue, target, plan), []);
      },
    ),
    { numRuns: 150 },
  );
});

test("tells of a plan that does not hold", async () => {
  const target = pennywort();
  const { catalogue, plan } = await planned([single("a", { "Goes with": "C-b" }), single("b")], target);
  const upload = plan.steps.find((step) => step.is === "upload")!;
  const broken = {
    ...plan,
    steps: [
      {
        ...upload,
        files: [
          { name: "1.csv", blocks: [{ layout: 0, kind: "product", records: [0] }] },
          { name: "2.csv", blocks: [{ layout: 0, kind: "product", records: [1, 1] }] },
        ],
      },
    ],
  };
  assert.deepEqual(verifyPlan(catalogue, target, broken), [
    "product b is created twice",
    "product a links to product b before it is there",
  ]);
});

test("sets links afterwards only where files had to be split between them, and says why", async () => {
  const target = pennywort((text) => text.replace("products: 120", "products: 1"));
  const { plan } = await planned([single("a", { "Goes with": "C-b" }), single("b", { "Goes with": "C-a" })], target);
  const uploads = plan.steps.filter((step) => step.is === "upload");
  assert.deepEqual(
    uploads.map((step) => [step.slot.name, step.files.length]),
    [
      ["items", 2],
      ["links", 1],
    ],
  );
  assert.match(String(uploads[1]!.why), /later files/);
  assert.equal(plan.cost.postponed, 1);
});

test("names a cycle of categories whole, once, with every place", async () => {
  const layout =
    "layout: c\nformat: { csv: { delimiter: ';' } }\nrows: { each: category }\ncolumns:\n  Id: category.key\n  Up: { field: category.parent, as: { by: key } }\n";
  const { catalogue, findings } = await read([{ layout, csv: "Id;Up\na;c\nb;a\nc;b\nd;c\n" }]);
  reportCycles(catalogue, findings);
  const found = one(findings.list(), "plan/cycle");
  assert.deepEqual(found.facts, { chain: ["a", "c", "b", "a"] });
  assert.deepEqual([found.at?.line, ...found.related.map((location) => location.line)], [2, 4, 3]);
});

test("says so where a target offers no order", async () => {
  const { findings } = await planned(
    [single("a")],
    pennywort((text) => text.replace("  - { file: items }\n", "")),
  );
  assert.deepEqual(one(findings.list(), "plan/no-order").facts, { kinds: ["product"], target: "pennywort" });
});

test("says so where one product alone is too large for a file", async () => {
  const { catalogue } = await read([{ layout: rangeLayout, csv: rangeCsv(single("a")) }]);
  const findings = new Findings();
  findings.took(planImport(catalogue, pennywort(), { bytesOf: () => 5_000_000, headerBytes: () => 0, pictures: [] }));
  assert.equal(one(findings.list(), "plan/too-large").at?.record?.key, "a");
});

test("rounds collect ids as seldom as any sequence does, and their bound on uploads holds", () => {
  const placement = (count: number) =>
    fc.record({
      name: fc.constant("p"),
      slots: fc.uniqueArray(fc.nat(2), { minLength: 1, maxLength: 2 }),
      postponedIn: fc.uniqueArray(fc.nat(2), { maxLength: 1 }),
      needs: fc.array(fc.record({ placement: fc.nat(count - 1), demand: fc.constantFrom(...demands) }), {
        maxLength: 2,
      }),
    });
  let found = 0;
  let least = 0;
  fc.assert(
    fc.property(fc.array(placement(4), { minLength: 4, maxLength: 4 }), (given) => {
      // A placement with one slot cannot be postponed; what is left is what rounds are for: one slot, or an early one and a late one.
      const placements = given.map((one) => ({
        ...one,
        postponedIn: one.slots.length === 2 ? one.postponedIn.filter((slot) => one.slots.includes(slot)) : [],
        slots:
          one.slots.length === 2 && !one.slots.some((slot) => one.postponedIn.includes(slot))
            ? [one.slots[0]!]
            : one.slots,
      }));
      const exact = findSequence(placements, 3);
      const rounds = findRounds(placements, 3);
      if (!exact || !rounds) return;
      found++;
      assert.equal(rounds.cost.collections, exact.cost.collections);
      assert.equal(rounds.bound.collections, exact.cost.collections);
      assert.ok(
        rounds.bound.uploads <= exact.cost.uploads,
        `${rounds.bound.uploads} is not a bound of ${exact.cost.uploads}`,
      );
      assert.ok(compareCosts(rounds.cost, exact.cost) >= 0);
      least += Number(compareCosts(rounds.cost, exact.cost) === 0);
      assert.deepEqual(
        rounds.steps.flatMap((step) => step.placed).sort((a, b) => a - b),
        placements.map((_, at) => at),
      );
    }),
    { numRuns: 800 },
  );
  assert.ok(found > 100 && least > found * 0.8, `${least} of ${found} are the least`);
});
