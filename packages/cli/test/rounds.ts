/** Building, sending, collecting and rehearsing side by side, round by round: where does the stand-in do otherwise than expected? */

import type { StandIn } from "@zest-tier/standins";
import {
  Findings,
  Ledger,
  reviewPlatform,
  stepsNow,
  valueOf,
  type LocatedDifference,
  type Plan,
  type Target,
} from "zest-tier";
import {
  collectIds,
  nothingHeldBack,
  planImport,
  readSource,
  SimulatedPlatform,
  playUpload,
  thereBy,
  verifyPlan,
  withIds,
  type ImportReport,
} from "zest-tier/parts";
import { encoded } from "./encoded.js";
import { memoryFiles } from "./generate.js";
import { kinds, pictureNames, type ReadRich, shipped } from "./rich.js";
import { differencesOf, toldOn } from "./on-platform.js";

export interface Rounds {
  /** Where the stand-in did otherwise than the rehearsal said. */
  readonly disagreements: string[];
  /** What it holds in the end against what is intended. */
  readonly lost: readonly LocatedDifference[];
  readonly refused: number;
  readonly rounds: number;
  readonly collections: number;
}

/** What is known of a platform, and the simulated one beside it: it gives the ids that the real one gave. */
export class Known {
  ledger = new Ledger();
  #platform: SimulatedPlatform | undefined;

  platform(target: Target): SimulatedPlatform {
    return (this.#platform ??= new SimulatedPlatform(
      target,
      kinds,
      (kind, key, count) => this.ledger.id(kind, key) ?? `${9_000_000 + count}`,
    ));
  }
}

const maxRounds = 12;

export async function playRounds(
  standIn: StandIn,
  target: Target,
  { catalogue: given }: ReadRich,
  known = new Known(),
): Promise<Rounds> {
  const disagreements: string[] = [];
  let catalogue = given;
  const platform = known.platform(target);
  let refused = 0;
  let rounds = 0;
  let collections = 0;
  for (; rounds < maxRounds; rounds++) {
    catalogue = withIds(given, known.ledger);
    const there = thereBy(known.ledger, catalogue);
    const options = { bytesOf: () => 0, headerBytes: () => 0, pictures: pictureNames, there };
    const planned = planImport(catalogue, target, options);
    if (!planned.ok) break;
    const plan = planned.value;
    if (rounds === 0) {
      collections = plan.cost.collections;
      disagreements.push(
        ...verifyPlan(catalogue, target, plan, () => false, there).map((problem) => `plan: ${problem}`),
      );
    }
    const files = await encoded(catalogue, target, plan);
    const reports = await send(plan, files);
    const before = known.ledger.size;
    await collect(plan, reports);
    const rehearsed = await playUpload({
      catalogue,
      target,
      plan,
      heldBack: nothingHeldBack,
      files: memoryFiles(files),
      platform,
    });
    for (const expected of valueOf(rehearsed).files) {
      const report = reports.get(expected.name)!;
      refused += report.rows.filter((row) => row.outcome === "refused").length + Number(report.refused !== null);
      if ((report.refused === null) !== (expected.refused === undefined))
        disagreements.push(`${expected.name}: ${report.refused ?? "taken"}, expected ${expected.refused ?? "taken"}`);
      report.rows.forEach((row, at) => {
        const said = expected.rows[at];
        const isSame = said && row.outcome === said.outcome && row.reasons!.length > 0 === said.reasons.length > 0;
        if (!isSame)
          disagreements.push(
            `${expected.name}:${row.line} ${row.outcome} (${row.reasons!.join()}), expected ${said?.outcome} (${said?.reasons.join()})`,
          );
      });
    }
    if (stepsNow(plan).length === plan.steps.length || known.ledger.size === before) break;
  }
  // What a stand-in holds is read by its own target, whatever target is tried on it.
  const own = await shipped(target.name);
  const told = await toldOn(standIn.url, own);
  const state = differencesOf(platform.held(catalogue).catalogue, told.catalogue, own);
  disagreements.push(...state.map((one) => `state: ${JSON.stringify(one)}`));
  const lost = reviewPlatform(catalogue, own, nothingHeldBack, told).differences;
  return { disagreements, lost, refused, rounds: rounds + 1, collections };

  async function send(plan: Plan, files: Readonly<Record<string, Uint8Array>>): Promise<Map<string, ImportReport>> {
    const reports = new Map<string, ImportReport>();
    for (const step of stepsNow(plan)) {
      if (step.is === "lists")
        for (const { name, entries } of step.lists)
          await fetch(standIn.url + target.endpoints.lists!.replace("{list}", name), {
            method: "POST",
            body: JSON.stringify(entries),
          });
      if (step.is !== "upload") continue;
      const { endpoint = target.endpoints.upload } = target.files.get(step.slot.file)!;
      for (const { name } of step.files) {
        const to = standIn.url + endpoint.replace("{name}", name);
        reports.set(name, (await (await fetch(to, { method: "POST", body: files[name]! })).json()) as ImportReport);
      }
    }
    return reports;
  }

  async function collect(plan: Plan, reports: ReadonlyMap<string, ImportReport>): Promise<void> {
    const collected = await collectIds({
      catalogue,
      kinds,
      target,
      plan,
      heldBack: nothingHeldBack,
      ledger: known.ledger,
      reports,
      readExport: async (file, layout, into) => {
        const bytes = new Uint8Array(await (await fetch(standIn.url + file.ids!.endpoint!)).arrayBuffer());
        await readSource({ file: "export", layout }, into, memoryFiles({ export: bytes }), new Findings());
        return true;
      },
      run: "test",
    });
    if (collected.ok) known.ledger = collected.value.ledger;
  }
}
