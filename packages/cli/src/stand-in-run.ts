/** Running an upload on a stand-in: building, sending, collecting, round by round, then reading back what is on it. */

import { join } from "node:path";
import {
  checkPlatform,
  Ledger,
  type LocatedDifference,
  type ReadonlyFindings,
  type BuiltUpload,
  type Verdict,
  valueOf,
  withLedger,
} from "zest-tier";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import { collectReports } from "./run/collect.js";
import { buildFolder } from "./run/build.js";
import { deliver, readBack, type DeliveredFile } from "./deliver.js";
import { exportOf } from "./platform.js";
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
  /** Why it stopped before its end; undefined where it did not. */
  readonly stopped: ReadonlyFindings | undefined;
}

/** More rounds than any plan has: beyond them nothing moves forward. */
const maxRounds = 40;

/** A session whose ledger is kept in memory: a stand-in begins empty each time. */
export function withEmptyLedger(session: Session): Session {
  return { ...session, opened: withLedger(session.opened, new Ledger()), save: () => Promise.resolve() };
}

/**
 * @param first what was built already, for an empty platform.
 * @param kept an empty stand-in that goes on afterwards; one of its own, that is stopped, if left out.
 */
export async function runOnStandIn(
  given: Session,
  first: BuiltUpload,
  verdict: Verdict,
  io: Io,
  kept?: StandIn,
): Promise<StandInRun> {
  const { uploadFolder, folder } = given;
  const { target } = given.opened;
  let session = given;
  const shop = kept ?? (await startStandIn(target.name as StandInName));
  const reportsFolder = join(folder, `reports-${target.name}`);
  const rounds: Round[] = [];
  try {
    let upload: BuiltUpload | undefined = first;
    let stopped: ReadonlyFindings | undefined;
    while (upload && rounds.length < maxRounds) {
      const delivered = await deliver(shop.url, target, upload.plan, uploadFolder, reportsFolder);
      const isLast = upload.stopsAt === undefined;
      const collected = isLast ? undefined : await collectReports(session, upload, reportsFolder);
      rounds.push({ delivered, ids: collected?.ok ? collected.value.ids : 0 });
      if (collected && !collected.ok) stopped = collected.findings;
      if (!collected?.ok) break;
      session = { ...session, opened: collected.value.opened };
      const built = await buildFolder(session, io);
      upload = built.ok ? built.value : undefined;
      if (!built.ok) stopped = built.findings;
    }
    const checked = valueOf(await checkPlatform(session.opened, first, [exportOf(await readBack(shop.url, target))]));
    const delivered = rounds.flatMap((round) => round.delivered);
    return { rounds, stopped, disagreements: disagreementsOf(verdict, delivered), differences: checked.differences };
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
