/** The lines of a ledger's file. */

import { z } from "zod";

export const ledgerLine = z.strictObject({
  kind: z.string().min(1),
  key: z.string(),
  /** What was added to the record: `prices`, `categories`. */
  entry: z.string().optional(),
  /** The language of texts that were added. */
  lang: z.string().optional(),
  id: z.string().min(1).optional(),
  /** `unconfirmed`: the record is no longer there, and nothing is known of it; `restored`: what was known of it before that is known again. */
  state: z.enum(["built", "sent", "confirmed", "unconfirmed", "restored"]),
  /**
   * Digests of what was last delivered, by field as comparisons call it; stands in a line of entry `delivered`. Of a value that the
   * platform keeps in another form there are two: as sent, and as read back.
   */
  fields: z.record(z.string(), z.union([z.string(), z.tuple([z.string(), z.string()])])).optional(),
  /** Which run of the program wrote it. */
  run: z.string(),
});
/** One line of a ledger's file. */
export type LedgerLine = z.infer<typeof ledgerLine>;
