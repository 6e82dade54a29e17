/** What was last delivered of a record, field by field, and who has changed it since. */

import type { Ledger } from "../ledger/ledger.js";
import type { Sha256 } from "../ports.js";

/** Who has changed a field since it was last delivered. */
export type ChangedBy = "you" | "platform" | "both" | "not known";
/** The same; or that the platform has what it made of what was sent, so that nothing has changed. */
export type ChangedOrKept = ChangedBy | "as read back";

const digestChars = 16;

/** What was read back of a field that the platform does not keep: it has no digest there. */
export const notKept = "";

/** What a field's value comes to in the ledger. */
export function digestOf(value: string, sha256: Sha256): string {
  const hasher = sha256();
  hasher.update(new TextEncoder().encode(value));
  return hasher.digest().slice(0, digestChars);
}

/** Tells of fields that differ who has changed them. */
export class ChangedSince {
  constructor(
    readonly ledger: Pick<Ledger, "delivered">,
    readonly sha256: Sha256,
  ) {}

  wasDelivered(kind: string, name: string): boolean {
    return this.ledger.delivered(kind, name) !== undefined;
  }

  /** @param wanted what is intended now. @param there what the platform has. @returns `as read back` where that is what it made of what was sent. */
  by(kind: string, name: string, field: string, wanted: string | undefined, there: string | undefined): ChangedOrKept {
    const last = this.ledger.delivered(kind, name);
    if (!last) return "not known";
    const digest = last[field];
    const [sent, kept] = typeof digest === "object" ? digest : [digest, digest];
    const readBack = kept === notKept ? undefined : kept;
    const isSent = digestIn(wanted, this.sha256) === sent;
    const isAsLeft = [sent, readBack].includes(digestIn(there, this.sha256));
    if (isSent && isAsLeft && sent !== readBack) return "as read back";
    if (isAsLeft) return "you";
    return isSent ? "platform" : "both";
  }
}

/** What a field comes to that may be absent. */
const digestIn = (value: string | undefined, sha256: Sha256): string | undefined =>
  value === undefined ? undefined : digestOf(value, sha256);
