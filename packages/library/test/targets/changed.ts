/** One generated target, a month later: what changes is written onto what is there, set back, and once done nothing more is written. */

import {
  build,
  Findings,
  Ledger,
  planUpload,
  rehearseRollback,
  valueOf,
  type FilesPort,
  type OpenedTarget,
  type PlannedUpload,
  type TargetView,
} from "#src/index.js";
import {
  asTargetView,
  Changes,
  noWishes,
  playUpload,
  prepareBuild,
  SimulatedPlatform,
  compareWithPlatform,
} from "#src/parts.js";
import { plannedFiles } from "#src/build/planned-files.js";
import type { Prepared } from "#src/build/prepare.js";
import { coverageOf } from "#src/compare/told.js";
import type { PlatformCatalogue } from "#src/compare/held.js";
import { layoutsOf } from "#src/compare/held-form.js";
import { platformAtFirst } from "#src/verdict/through.js";
import { nothingHeldBack } from "#src/build/hold-back.js";
import { stepsNow } from "#src/plan/plan.js";
import { memoryFolder, blobFiles } from "#src/web/index.js";
import { nodeSha256 } from "#src/node/index.js";
import { openSmall } from "../small-project.js";
import { textOf } from "../layouts/generate.js";
import { generate, type DrawnTarget } from "./generate.js";

export type Changed = "changed" | "nothing to change" | "not taken" | "refused at load";

const despite: ReadonlySet<string> = new Set([
  "check/no-code",
  "check/no-choice",
  "check/no-hire-price",
  "check/offer-not-below",
]);

/** Fields whose values can change places between two records. */
const exchanged = ["description", "weight", "position", "shown", "amount", "quantity", "searchTitle", "unit", "length"];

/** The same records, with values of some fields exchanged between the first and the last that have one. */
function edited(given: TargetView): TargetView {
  const made = given.branch();
  for (const table of given.tables)
    for (const [field, column] of table.texts) {
      if (!exchanged.includes(field.replace(/@.*/, ""))) continue;
      const rows = Array.from({ length: table.size }, (_, row) => row).filter(
        (row) => typeof column.get(row) === "string" && (table.kind.entryKey === undefined || table.parent(row) >= 0),
      );
      const [first, last] = [rows[0], rows[rows.length - 1]];
      if (first === undefined || last === undefined || first === last) continue;
      made.table(table.name).setText(field, first, column.get(last));
      made.table(table.name).setText(field, last, column.get(first));
    }
  return asTargetView(made);
}

/** @throws where something else comes of a change than its goal, or of its rollback than what was there, or where it never ends. */
export async function changeOf(drawn: DrawnTarget): Promise<Changed> {
  const generated = generate(drawn);
  const sheets = generated.plain.map((sheet) => ({ layout: sheet.layout, text: textOf(sheet) }));
  const opened = await openSmall(sheets, generated.target);
  if (!opened.ok) return "refused at load";
  const first = await imported(opened.value);
  if (!first) return "not taken";
  const { target } = opened.value;
  const catalogue = edited(opened.value.catalogue);
  const there = toldOf(opened.value, first, catalogue);
  const { changes, prepared } = await changesOf(opened.value, catalogue, there);
  if (!prepared) return "not taken";
  if (prepared.plan.steps.some(({ is }) => is === "collect")) return "not taken";
  const play = async (steps: Prepared["plan"]["steps"], goal: Changes["goal"]) => {
    const plan = { ...prepared.plan, steps };
    const files = plannedFiles(catalogue, target, plan, prepared.heldBack);
    const platform = changes.start();
    const played = await playUpload({ catalogue, target, plan, heldBack: prepared.heldBack, files, platform, goal });
    return { verdict: valueOf(played), platform };
  };
  const shown = (steps: Prepared["plan"]["steps"]) =>
    JSON.stringify(
      steps.flatMap((step) => (step.is === "upload" ? [[step.slot.name, [...(step.columns ?? [])]]] : [])),
    );
  const forward = await play(stepsNow(prepared.plan), changes.goal);
  const refused = forward.verdict.files.flatMap(({ rows }) =>
    rows.flatMap(({ reasons, outcome }) => (outcome === "refused" ? reasons : [])),
  );
  const files = forward.verdict.files.flatMap(({ name, refused: why }) =>
    why === undefined ? [] : [`${name}: ${why}`],
  );
  if (!forward.verdict.rebuilt)
    throw new Error(
      `changed otherwise: ${files.join()} ${refused.join()} ${JSON.stringify(forward.verdict.differences.slice(0, 3))} ${shown(prepared.plan.steps)}`,
    );
  const { rollback = [], lost = [] } = prepared;
  const back = await play([...stepsNow(prepared.plan), ...rollback], changes.before);
  const known = new Set(lost.map(({ kind, key }) => `${kind} ${key}`));
  const left = back.verdict.differences.filter(({ kind, key }) => !known.has(`${kind} ${key}`));
  if (left.length > 0 || back.verdict.counts.refused > 0)
    throw new Error(`not set back: ${JSON.stringify(left.slice(0, 3))} ${shown(rollback)}`);
  const again = await changesOf(
    opened.value,
    catalogue,
    toldOf(opened.value, forward.platform, changes.goal.catalogue),
  );
  const more = again.prepared?.plan.steps.filter(({ is }) => is === "upload") ?? [];
  if (more.length > 0) throw new Error(`again: ${shown(more)}`);
  return prepared.plan.steps.some(({ is }) => is === "upload") ? "changed" : "nothing to change";
}

/** The platform after a first import that it takes as a whole; undefined where it does not. */
async function imported(opened: OpenedTarget): Promise<SimulatedPlatform | undefined> {
  const { sink, files } = memoryFolder();
  const built = await build(opened, { sink, despite });
  if (!built.ok) return undefined;
  const planned = valueOf(await planUpload(opened, { despite }));
  if (planned.plan.steps.some(({ is }) => is === "collect")) return undefined;
  const { catalogue, target } = opened;
  const platform = platformAtFirst(catalogue, target, nothingHeldBack, new Ledger()) as SimulatedPlatform;
  const input = { catalogue, target, plan: planned.plan, heldBack: nothingHeldBack, files: blobFiles(files), platform };
  if (!valueOf(await playUpload(input)).rebuilt) return undefined;
  await assertTakenBack(opened, planned, blobFiles(files));
  return platform;
}

/** Where the target can delete, the first import is set back: what was made is gone, but for what was listed. */
async function assertTakenBack(opened: OpenedTarget, planned: PlannedUpload, files: FilesPort): Promise<void> {
  if (planned.rollback === undefined) return;
  const { rebuilt, differences, files: played } = valueOf(await rehearseRollback(opened, planned, { files }));
  const reasons = played.flatMap(({ rows }) => rows.flatMap((row) => row.reasons));
  if (!rebuilt) throw new Error(`not taken back: ${reasons.join()} ${JSON.stringify(differences.slice(0, 3))}`);
}

function toldOf(
  { target, project }: OpenedTarget,
  platform: SimulatedPlatform,
  intended: TargetView,
): PlatformCatalogue {
  const told = coverageOf(layoutsOf(target), project.kinds);
  const isNone = (table: string) => told.entries(table) === "none";
  return {
    catalogue: platform.held(intended).catalogue,
    coverage: { ...told, entries: (table) => (isNone(table) ? "none" : "all"), tellsEntry: (table) => !isNone(table) },
  };
}

async function changesOf({ target, pictureNames }: OpenedTarget, catalogue: TargetView, platform: PlatformCatalogue) {
  const wishes = { ...noWishes, fields: { "product.stock": "overwrite", "variant.stock": "overwrite" } } as const;
  const ledger = new Ledger();
  const input = { catalogue, target, platform, ledger, sha256: nodeSha256, pairs: [] };
  const comparison = compareWithPlatform(input, new Findings());
  const changes = new Changes({ ...input, comparison, wishes, tasks: [], redirects: [], replaces: false });
  const choices = { holdBack: false, despite, pictureNames, there: changes.there, found: new Findings() };
  const prepared = prepareBuild({ catalogue, target, ...choices });
  const isStopped =
    !prepared.ok || prepared.findings.list().some(({ code, severity }) => severity === "error" && !despite.has(code));
  return { changes, prepared: isStopped ? undefined : await changes.plan(prepared.value) };
}
