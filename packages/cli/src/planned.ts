/** A session with its plan: for the commands that need one. */

import { planUpload, type PlannedUpload, type ReadonlyFindings } from "zest-tier";
import type { CommandLine } from "./command.js";
import type { Io } from "./io.js";
import { openSession, type OpenedSession, type Session } from "./session.js";

export interface SessionPlan {
  readonly ok: true;
  readonly session: Session;
  readonly prepared: PlannedUpload;
  readonly findings: ReadonlyFindings;
}

export type Planning = SessionPlan | { readonly ok: false; readonly findings: ReadonlyFindings };

export const openPlanned = async (given: CommandLine, io: Io): Promise<Planning> =>
  planOf(await openSession(given, io));

export async function planOf(opening: OpenedSession): Promise<Planning> {
  if (!opening.ok) return opening;
  const { session } = opening;
  const planned = await planUpload(session.opened, session.choices);
  return planned.ok ? { ok: true, session, prepared: planned.value, findings: planned.findings } : planned;
}
