/** What differs between two catalogues, and which of it matters. */

/** A field of a record, or of an entry of it, that differs. */
export interface CatalogueDifference {
  readonly kind: string;
  /** The rows of the record in both catalogues. */
  readonly own: number;
  readonly other: number;
  /** The name of the entries, where the field is one of an entry. */
  readonly entries: string | undefined;
  /** The rows of the entry; -1 where it is not there. */
  readonly ownEntry: number;
  readonly otherEntry: number;
  /** With its language. Left out where one of them lacks the whole entry, or has the entries in another order. */
  readonly field: string | undefined;
  /** As texts: references by the keys of what they lead to. */
  readonly value: string | undefined;
  readonly there: string | undefined;
}

/** A record that only one of two catalogues has, or may have: what is not clear, or not told, is unknown. */
export interface Unmatched {
  readonly kind: string;
  readonly row: number;
}

/**
 * Whether a difference matters, by the rows of what differs: records, or entries. A row is -1 where an entry is not there. It is asked
 * before anything is described: most of what differs may have no place on a platform.
 *
 * @param isSaid whether the one side says anything. @param isThere whether the other side does.
 */
export type MattersInRow = (own: number, other: number, isSaid: boolean, isThere: boolean) => boolean;

/** Asked once a column. @param table a kind, or `kind.entries`. @param field with its language; left out for whole entries. */
export type Matters = (table: string, field: string | undefined) => MattersInRow;

/** Every difference matters. */
export const all: MattersInRow = () => true;
