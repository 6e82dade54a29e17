/** Findings and results: nothing that was found is lost on the way up, however little of it is listed. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { failure, finding, Findings, success, valueOf, type Finding } from "#src/index.js";

const error = (line: number) => finding("read/open-quote", {}, { file: "a.csv", line });
const note = (line: number) => finding("read/mixed-line-ends", {}, { file: "a.csv", line });
const other = (line: number) => finding("read/gave-up", {}, { file: "a.csv", line });

const some = fc.array(
  fc.tuple(fc.constantFrom(error, note, other), fc.nat(50)).map(([make, line]) => make(line)),
  { maxLength: 30 },
);

/** How many findings of a code there are, listed or counted. */
function countOf(findings: { list(): readonly Finding[] }, code: string): number {
  return findings.list().reduce((sum, one) => {
    if (one.code === "findings/more" && one.facts.code === code) return sum + one.facts.more;
    return sum + Number(one.code === code);
  }, 0);
}

test("what is taken from results is listed or counted, whatever the limits of either", () => {
  let unlisted = 0;
  fc.assert(
    fc.property(
      fc.array(fc.tuple(some, fc.integer({ min: 0, max: 12 })), { maxLength: 4 }),
      fc.nat(12),
      (parts, most) => {
        const all = new Findings(most);
        for (const [given, limit] of parts) {
          const own = new Findings(limit);
          let made = 0;
          given.forEach((one, at) => {
            if (at % 2 === 0) own.add(one);
            else own.addOf(one.code, () => (made++, one));
          });
          // What is not listed is not made.
          assert.ok(made <= own.list().length);
          const copy = own.copy();
          copy.add(error(0));
          all.took({ ok: false, findings: own });
        }
        const given = parts.flatMap(([one]) => one);
        for (const { code } of [error(1), note(1), other(1)]) {
          assert.equal(countOf(all, code), given.filter((one) => one.code === code).length);
          assert.ok(all.list().filter((one) => one.code === code).length <= most);
        }
        assert.equal(
          all.hasErrors,
          given.some(({ severity }) => severity === "error"),
        );
        const listed = all.list().filter(({ severity }) => severity === "error").length;
        assert.equal(all.hasUnlistedErrors, given.filter(({ severity }) => severity === "error").length > listed);
        unlisted += Number(all.hasUnlistedErrors);
      },
    ),
    { numRuns: 200 },
  );
  assert.ok(unlisted > 10, `${unlisted} with errors that are not listed`);
});

test("a list that is asked for in between leaves out nothing of what comes later", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(some, fc.nat(3)), { maxLength: 5 }), fc.nat(4), (parts, most) => {
      const [asked, unasked] = [new Findings(most), new Findings(most)];
      for (const [given, limit] of parts) {
        for (const one of given) {
          asked.list();
          for (const each of [asked, unasked]) each.addOf(one.code, () => one);
        }
        assert.deepEqual(asked.list(), unasked.copy().list());
        const more = new Findings(limit);
        more.addAll(given);
        for (const each of [asked, unasked]) each.took({ ok: false, findings: more });
        assert.deepEqual(asked.list(), unasked.copy().list());
      }
    }),
  );
});

test("a result gives its value, or what the errors say", () => {
  const findings = new Findings();
  assert.equal(findings.took(success(5)), 5);
  assert.equal(findings.took(failure(error(3))), undefined);
  assert.equal(findings.hasErrors, true);
  assert.throws(() => valueOf(failure(error(3), note(4))), /^Error: a\.csv:3: [^\n]+$/);
});
