/** Running an upload on a stand-in: building, sending, collecting, round by round, then reading back what is on it. */

import { join } from "node:path";
import {
  compareSnapshots,
  Findings,
  Ledger,
  intendedByTarget,
  locateDifference,
  readbackSnapshot,
  type LocatedDifference,
  type Snapshot,
  type Upload,
  type Verdict,
  withIds,
} from "zest-tier";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import { collectReports } from "./commands/collect.js";
import { buildFolder } from "./commands/build.js";
import { deliver, readBack, type DeliveredFile } from "./deliver.js";
import type { Io } from "./io.js";
import type { Session } from "./session.js";

export interface Round {
  readonly delivered: readonly DeliveredFile[];
  /** Ids that were collected after it. */
  readonly ids: number;
}

export interface StandInRun {
  readonly rounds: readonly Round[];
  /** What is on the platform, compared with what is intended. */
  readonly differences: readonly LocatedDifference[];
  /** Rows with another outcome than the rehearsal expected. */
  readonly disagreements: readonly string[];
  /** What is intended, as far as the target can store it. */
  readonly intended: Snapshot;
}

/** More rounds than any plan has: beyond them nothing moves forward. */
const maxRounds = 40;

/** A session whose ledger is kept in memory: a stand-in begins empty each time. */
export function withEmptyLedger(session: Session): Session {
  const ledger = new Ledger();
  return {
    ...session,
    catalogue: withIds(session.catalogue, ledger),
    ledger: { ledger, save: () => Promise.resolve() },
  };
}

/**
 * @param first what was built already, for an empty platform.
 * @param kept an empty stand-in that goes on afterwards; one of its own, that is stopped, if left out.
 */
export async function runOnStandIn(
  given: Session,
  first: Upload,
  verdict: Verdict,
  io: Io,
  kept?: StandIn,
): Promise<StandInRun> {
  const { target, uploadFolder, folder } = given;
  let session = given;
  const shop = kept ?? (await startStandIn(target.name as StandInName));
  const reportsFolder = join(folder, `reports-${target.name}`);
  const rounds: Round[] = [];
  try {
    let upload: Upload | undefined = first;
    while (upload && rounds.length < maxRounds) {
      const delivered = await deliver(shop.url, target, upload.plan, uploadFolder, reportsFolder);
      const isLast = upload.stopsAt === undefined;
      const own: Session = { ...session, findings: new Findings() };
      const collected = isLast ? undefined : await collectReports(own, upload, reportsFolder);
      rounds.push({ delivered, ids: collected?.ids ?? 0 });
      if (isLast || !collected) break;
      session = { ...session, catalogue: collected.catalogue };
      upload = await buildFolder({ ...session, findings: new Findings() }, io);
    }
    const intended = intendedByTarget(session.catalogue, target, first.heldBack);
    const held = readbackSnapshot(await readBack(shop.url, target), target);
    const differences = compareSnapshots(intended.snapshot, held).map((one) =>
      locateDifference(session.catalogue, intended, one),
    );
    const delivered = rounds.flatMap((round) => round.delivered);
    return { rounds, differences, disagreements: disagreementsOf(verdict, delivered), intended: intended.snapshot };
  } finally {
    if (!kept) await shop.stop();
  }
}

/** Files come in the same order on both sides. */
function disagreementsOf(verdict: Verdict, delivered: readonly DeliveredFile[]): string[] {
  if (delivered.length !== verdict.files.length)
    return [`${verdict.files.length} files expected, ${delivered.length} sent`];
  return delivered.flatMap(({ name, refused, rows }, file) => {
    const rehearsed = verdict.files[file]!;
    if ((refused === null) !== (rehearsed.refused === undefined) || rows.length !== rehearsed.rows.length)
      return [`${name}: ${refused ?? "taken"}`];
    return rows.flatMap((row, at) =>
      row.outcome === rehearsed.rows[at]!.outcome
        ? []
        : [`${name}:${row.line} ${rehearsed.rows[at]!.outcome} expected, ${row.outcome}`],
    );
  });
}
