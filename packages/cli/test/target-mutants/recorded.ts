/** Uploads that were made by a target as it is: what another target makes of the same bytes shows whether it is another. */

import fc from "fast-check";
import {
  Ledger,
  stepsNow,
  targetsOf,
  valueOf,
  type Plan,
  type ResolvedCatalogue,
  type Target,
  type TargetFile,
} from "zest-tier";
import { nothingHeldBack, planImport, playUpload, SimulatedPlatform, thereBy, withIds } from "zest-tier/parts";
import { encoded } from "../encoded.js";
import { aimed, harmed } from "./harms.js";
import { damaged, memoryFiles, pictureNames as shopPictures, readShop, shop } from "../generate.js";
import { damagedRich, kinds, pictureNames as richPictures, readRich, rich, type ReadRich } from "../rich.js";

export type PlatformName = "pennywort" | "saltmarsh" | "tollgate";

interface Round {
  /** Of the first catalogue, or of the one after it. */
  readonly isFirst: boolean;
  readonly catalogue: ReadRich["catalogue"];
  readonly plan: Plan;
  readonly files: Readonly<Record<string, Uint8Array>>;
}

/** Two catalogues, one after the other: what is taken over, left and cleared shows only on the second. */
export interface Recorded {
  readonly target: Target;
  readonly rounds: readonly Round[];
  readonly ids: Ledger;
  readonly says: string;
}

/** Catalogues with each harm in its turn, and some without. */
export async function catalogues(name: PlatformName, count: number): Promise<readonly (readonly ReadRich[])[]> {
  const pairs = async <T>(
    clean: fc.Arbitrary<T>,
    harmed: (at: number) => fc.Arbitrary<T>,
    read: (one: T) => Promise<ReadRich>,
  ) => {
    const made: ReadRich[][] = [];
    for (let at = 0; at < count; at++) {
      const one = at % 8 === 0 ? clean : harmed(at);
      const [pair] = fc.sample(fc.tuple(one, one), { numRuns: 1, seed: 20_261_100 + at });
      made.push([await read(pair![0]), await read(pair![1])]);
    }
    return made;
  };
  return name === "pennywort"
    ? pairs(shop(6), () => damaged(6), readShop)
    : pairs(rich(), (at) => damagedRich(4, at), readRich);
}

const platformOf = (target: Target, ids: Ledger): SimulatedPlatform =>
  new SimulatedPlatform(target, kinds, (kind, key, count) => ids.id(kind, key) ?? `${9_000_000 + count}`);

/** The same uploads with cells that should never be sent. */
export const withHarms = (recorded: Recorded, target: Target, turn: number): Promise<Recorded> =>
  // What is known already shows only where the first catalogue was taken.
  withFiles(
    recorded,
    target,
    ({ isFirst }) => !isFirst || turn % 3 === 0,
    (file, bytes) => harmed(file, bytes, turn),
  );

/** The same uploads with one such cell in the columns that are chosen. */
export const withAim = (
  recorded: Recorded,
  target: Target,
  isChosen: (file: string, header: string) => boolean,
  harm: string,
): Promise<Recorded> =>
  withFiles(
    recorded,
    target,
    () => true,
    (file, bytes) => aimed(file, bytes, (header) => isChosen(file.name, header), harm),
  );

async function withFiles(
  recorded: Recorded,
  target: Target,
  isHarmed: (round: Round) => boolean,
  change: (file: TargetFile, bytes: Uint8Array) => Promise<Uint8Array>,
): Promise<Recorded> {
  const rounds = await Promise.all(
    recorded.rounds.map(async (round) => {
      if (!isHarmed(round)) return round;
      const files: Record<string, Uint8Array> = {};
      for (const step of stepsNow(round.plan)) {
        if (step.is !== "upload") continue;
        const file = target.files.get(step.slot.file)!;
        for (const { name } of step.files) files[name] = await change(file, round.files[name]!);
      }
      return { ...round, files };
    }),
  );
  const platform = platformOf(target, recorded.ids);
  const says: string[] = [];
  for (const round of rounds) says.push(await played(round, target, platform));
  return { ...recorded, rounds, says: says.join("\n") };
}

/** Builds round by round, as a person would, and notes what comes of it. */
export async function record(name: PlatformName, target: Target, given: readonly ReadRich[]): Promise<Recorded> {
  const pictures = name === "pennywort" ? shopPictures : richPictures;
  const ids = new Ledger();
  const platform = platformOf(target, ids);
  const rounds: Round[] = [];
  const says: string[] = [];
  for (const { catalogue: intended } of given)
    for (let round = 0; round < 8; round++) {
      const catalogue = withIds(intended, ids);
      const options = { bytesOf: () => 0, headerBytes: () => 0, pictures, there: thereBy(ids, catalogue) };
      const planned = planImport(catalogue, target, options);
      if (!planned.ok) break;
      const plan = planned.value;
      const made: Round = {
        isFirst: intended === given[0]?.catalogue,
        catalogue,
        plan,
        files: await encoded(catalogue, target, plan),
      };
      rounds.push(made);
      says.push(await played(made, target, platform));
      const before = ids.size;
      for (const { name: kind } of catalogue.kinds.roots)
        for (const { key, id } of platform.known(kind))
          if (key !== undefined) ids.add({ kind, key, id, state: "confirmed", run: "mutants" });
      if (stepsNow(plan).length === plan.steps.length || ids.size === before) break;
    }
  return { target, rounds, ids, says: says.join("\n") };
}

/** Whether the same files come to something else on a platform as another target describes it. */
export async function isOtherwise(recorded: Recorded, mutant: Target): Promise<boolean> {
  const platform = platformOf(mutant, recorded.ids);
  const says: string[] = [];
  for (const round of recorded.rounds) says.push(await played(round, mutant, platform));
  return says.join("\n") !== recorded.says;
}

/** Whether another target writes other files of the same plan. */
export async function isWrittenOtherwise({ rounds }: Recorded, mutant: Target): Promise<boolean> {
  for (const { catalogue, plan, files } of rounds) {
    const made = await encoded(catalogue, mutant, plan);
    if (Object.entries(files).some(([name, bytes]) => Buffer.compare(bytes, made[name]!) !== 0)) return true;
  }
  return false;
}

/** Each row as it came out, what is there then, and the verdict. */
async function played({ catalogue, plan, files }: Round, target: Target, platform: SimulatedPlatform): Promise<string> {
  const common = { catalogue, target, plan, heldBack: nothingHeldBack, platform };
  const verdict = valueOf(await playUpload({ ...common, files: memoryFiles(files) }));
  const rows = verdict.files.map(({ name, refused, rows: all }) => ({
    name,
    refused,
    rows: all.map(({ line, outcome, reasons, notes }) => [line, outcome, [...reasons], [...notes]]),
  }));
  const { differences, cells, hidden, rebuilt } = verdict;
  return JSON.stringify([rows, heldBy(platform.held(catalogue).catalogue), differences, cells, hidden, rebuilt]);
}

/** What is there, record by record. */
function heldBy(held: ResolvedCatalogue): readonly string[] {
  return held.tables.flatMap((table) =>
    Array.from({ length: table.size }, (_, row) => {
      const owner = held.ownerOf(table, row);
      const texts = [...table.texts].map(([field, column]) => [field, column.get(row)]);
      const references = [...table.references.keys()].map((field) => [field, targetsOf(held, table, field, row)]);
      return JSON.stringify([owner.table.name, owner.table.key(owner.row), table.name, ...texts, ...references]);
    }),
  );
}
