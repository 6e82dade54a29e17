/** The upload's manifest: a Frictionless Data Package (version 1) with a Table Schema for each file of rows. */

import { firstOf, entryOf, fitting } from "../checked.js";
import type { Codec } from "../codecs/codec.js";
import { driverOf } from "../formats/drivers/drivers.js";
import { madeHeaders, sheetCells, sheetHeaders } from "../layout/cells.js";
import type { Column, Layout } from "../layout/layout.js";
import type { Header } from "../nominal.js";
import type { Plan, Purpose } from "../plan/plan.js";
import { allRules } from "../target/rules/rules.js";
import type { ColumnRule } from "../target/schema.js";
import type { Slot } from "../target/slot.js";
import type { Target, TargetFile } from "../target/target.js";

export interface PackedFile {
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
  /** Rows without the header; for pictures, how many. */
  readonly rows: number;
  /** For files of rows. */
  readonly slot?: Slot | undefined;
  /** The headers that it has; those of its import, if left out. */
  readonly columns?: ReadonlySet<string> | undefined;
  /** What its rows are for. */
  readonly purpose?: Purpose | undefined;
}

export function dataPackage(project: string, target: Target, plan: Plan, files: readonly PackedFile[]): string {
  const creating = files.filter((file) => file.slot?.mode === "create");
  const resources = files.map((file) =>
    resource(file, target, file.slot?.mode === "update" && creating.length === 1 ? creating[0] : undefined),
  );
  const steps = plan.steps.map(({ number, is, title }) => ({ number, is, title }));
  const content = {
    profile: "data-package",
    name: project.toLowerCase().replace(/[^a-z0-9._-]+/g, "-"),
    title: `${project} for ${target.name}`,
    target: { name: target.name, version: target.version },
    steps,
    resources,
  };
  return `${JSON.stringify(content, null, 2)}\n`;
}

function resource(file: PackedFile, target: Target, created: PackedFile | undefined): object {
  const common = { name: resourceName(file.name), path: file.name, bytes: file.bytes, hash: `sha256:${file.sha256}` };
  if (!file.slot) return { ...common, format: file.name.slice(file.name.lastIndexOf(".") + 1) };
  const of = entryOf(target.files, file.slot.file);
  const { columns } = of.layout;
  const written = file.columns ?? (file.slot.columns && new Set(file.slot.columns));
  const shown = columns.filter(({ header }) => written?.has(header) ?? true);
  const inFile = sheetCells(
    of.layout.cells,
    shown.map(({ header }) => header),
  ).headers;
  const fieldOf = (header: Header): object => {
    const own = shown.find((column) => column.header === header);
    return own ? tableField(own, of) : madeField(header, of.layout);
  };
  const key = of.grouped?.parent;
  const foreignKeys = created &&
    key !== undefined && [{ fields: key, reference: { resource: resourceName(created.name), fields: key } }];
  return {
    ...common,
    profile: "tabular-data-resource",
    ...driverOf(of.layout.format).resource(of.layout.format),
    rows: file.rows,
    slot: file.slot.name,
    ...(file.purpose && file.purpose !== "create" && { purpose: file.purpose }),
    schema: {
      fields: inFile.map(fieldOf),
      missingValues: [""],
      ...(foreignKeys ? { foreignKeys } : {}),
    },
  };
}

const resourceName = (file: string): string => file.slice(0, file.lastIndexOf(".")).toLowerCase();

function tableField({ header, bindings }: Column, file: TargetFile): object {
  const { codec, name } = firstOf(bindings);
  const constraints = constraintsOf(file.rules.get(header));
  return {
    name: header,
    ...typeOf(codec),
    description: `${name}: ${codec.takes}`,
    ...(Object.keys(constraints).length > 0 ? { constraints } : {}),
  };
}

/** A column whose cells are made of those of others, or are parts of another's. */
function madeField(header: Header, { cells }: Layout): object {
  const step = fitting(cells, (one) => sheetHeaders(one).includes(header));
  return { name: header, type: "string", description: madeHeaders(step).join(", ") };
}

function typeOf(codec: Codec): object {
  const takes = String(codec.takes);
  if (takes.startsWith("a decimal"))
    return takes.includes("comma") ? { type: "number", decimalChar: "," } : { type: "number" };
  return { type: takes === "a whole number" ? "integer" : "string" };
}

function constraintsOf(rule: ColumnRule | undefined): Record<string, unknown> {
  if (!rule) return {};
  return Object.assign({}, ...allRules.map((one) => one.constraints?.(rule) ?? {})) as Record<string, unknown>;
}
