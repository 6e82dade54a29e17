/** A project whose files are not as they should be: whatever one of them is, each function answers with findings, and none throws. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import fc from "fast-check";
import {
  failure,
  finding,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  success,
  type FilesPort,
  type ProjectPorts,
  type ReadonlyFindings,
} from "#src/index.js";
import { nodePorts } from "#src/node/index.js";
import { bytesOf } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 28);
const demo = fileURLToPath(new URL("../../../../demo/clean/", import.meta.url));
const named = ["sources", "layouts"].flatMap((folder) =>
  readdirSync(`${demo}${folder}`).map((name) => `${folder}/${name}`),
);

/** What may have become of a file; undefined where it is not there at all. */
const faults: Readonly<Record<string, (bytes: Uint8Array, at: number) => Uint8Array | undefined>> = {
  missing: () => undefined,
  empty: () => new Uint8Array(0),
  "cut off": (bytes, at) => bytes.subarray(0, Math.floor(bytes.length * at)),
  "no text": (bytes, at) => {
    const spoilt = bytes.slice();
    spoilt.set([0xff, 0xfe, 0x00, 0xc3, 0x28].slice(0, bytes.length), Math.floor((bytes.length - 5) * at));
    return spoilt;
  },
  "a quote too many": (bytes, at) => {
    const where = Math.floor(bytes.length * at);
    return Uint8Array.from([...bytes.subarray(0, where), 0x22, ...bytes.subarray(where)]);
  },
  "another file": () => readFileSync(`${demo}project.yaml`),
  zeros: (bytes) => new Uint8Array(bytes.length),
};

function portsWith(path: string, bytes: Uint8Array | undefined): ProjectPorts {
  const ports = nodePorts(demo);
  const files: FilesPort = {
    read(wanted) {
      if (wanted !== path) return ports.files.read(wanted);
      const result = bytes ? success(bytesOf(bytes)) : failure(finding("read/missing-file", {}, { file: path }));
      return Promise.resolve(result);
    },
    list: (folder) => ports.files.list(folder),
  };
  return { ...ports, files };
}

/** All that is found on the way to a plan, as far as it goes. */
async function findingsOf(ports: ProjectPorts): Promise<ReadonlyFindings> {
  const project = await openProject(ports);
  if (!project.ok) return project.findings;
  const sources = await readSourcesOf(project.value);
  if (!sources.ok) return sources.findings;
  const target = await openTarget(sources.value, { target: "tollgate" });
  if (!target.ok) return target.findings;
  return (await planUpload(target.value, { holdBack: true })).findings;
}

const errorsOf = (findings: ReadonlyFindings) => findings.list().filter(({ severity }) => severity === "error");

test("whatever one file of a project is, there are findings, and nothing is thrown", async () => {
  let stopped = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...named),
      fc.constantFrom(...Object.keys(faults)),
      fc.double({ min: 0.05, max: 0.95, noNaN: true }),
      async (path, fault, at) => {
        const spoilt = faults[fault]?.(readFileSync(`${demo}${path}`), at);
        const errors = errorsOf(await findingsOf(portsWith(path, spoilt)));
        stopped += Number(errors.length > 0);
        const isRead = !path.startsWith("layouts/") || readFileSync(`${demo}project.yaml`, "utf8").includes(path);
        if (fault === "missing" && isRead)
          assert.ok(errors.some((one) => one.code === "read/missing-file" && one.at?.file === path));
        if (fault === "empty" && path.startsWith("sources/"))
          assert.ok(
            errors.some((one) => one.at?.file === path),
            `${path} ${errors.map(({ code }) => code).join()}`,
          );
      },
    ),
    { numRuns: runs },
  );
  assert.ok(stopped > runs / 2, `${stopped} of ${runs} with errors`);
});

test("what fails says where: no error without a file", async () => {
  for (const path of named.filter((name) => name.endsWith(".csv")).slice(0, 6)) {
    const bytes = readFileSync(`${demo}${path}`);
    const errors = errorsOf(await findingsOf(portsWith(path, bytes.subarray(0, Math.floor(bytes.length / 2)))));
    assert.ok(
      errors.every(({ at, code }) => at !== undefined || code.startsWith("plan/") || code.startsWith("target/")),
    );
  }
});
