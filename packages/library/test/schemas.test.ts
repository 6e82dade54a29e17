/** An example of each schema of `zest-tier/schemas`, exhaustive by type. Each runs as a test, and stands in docs/reference/hosts.md. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { parse } from "yaml";
import { shippedTarget } from "#src/node/index.js";
import * as schemas from "#src/schemas.js";

const examples: Record<keyof typeof schemas, () => unknown> = {
  givenLayout() {
    const layout = { layout: "range", rows: { each: "product" }, columns: { No: "product.key" } };
    assert.equal(schemas.givenLayout.parse(layout).numbered > 0, true);
    assert.equal(schemas.givenLayout.safeParse({ ...layout, colums: {} }).success, false);
  },
  givenProject() {
    const project = {
      project: "bees",
      sources: [{ file: "range.csv", layout: "range.yaml" }],
      targets: [{ target: "saltmarsh" }],
    };
    assert.deepEqual(schemas.givenProject.parse(project).operations, []);
  },
  async givenTarget() {
    const target: unknown = parse((await shippedTarget("saltmarsh")) ?? "");
    assert.equal(schemas.givenTarget.parse(target).target, "saltmarsh");
  },
  givenRule() {
    assert.equal(schemas.givenRule.safeParse({ field: "product.name@de", copy: "product.name@en" }).success, true);
    assert.equal(schemas.givenRule.safeParse({ field: "product.name@de" }).success, false);
  },
  givenOperation() {
    const operation = { rename: "brush", of: "product", to: "bee-brush" };
    assert.deepEqual(schemas.givenOperation.parse(operation), operation);
  },
};

for (const [name, example] of Object.entries(examples)) test(`example of ${name}`, async () => void (await example()));
