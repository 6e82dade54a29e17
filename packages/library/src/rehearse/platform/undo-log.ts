/** What was done to the records of a platform, so that it can be taken back. */

/** What was done to a record. */
export type Change = "brought" | "taken out" | "moved" | "field" | "entries";

/** What was done, in order, with what there was before: a rehearsal does millions of things, and takes few back. */
export class UndoLog<R> {
  readonly #changes: Change[] = [];
  readonly #records: R[] = [];
  readonly #what: string[] = [];
  readonly #before: unknown[] = [];

  get size(): number {
    return this.#changes.length;
  }

  push(change: Change, record: R, what = "", before: unknown = undefined): void {
    this.#changes.push(change);
    this.#records.push(record);
    this.#what.push(what);
    this.#before.push(before);
  }

  /** Gives out what came after a mark, the last first. */
  back(mark: number, undo: (change: Change, record: R, what: string, before: unknown) => void): void {
    while (this.#changes.length > mark) {
      const [change, record] = [this.#changes.pop(), this.#records.pop()];
      const [what, before] = [this.#what.pop(), this.#before.pop()];
      if (change !== undefined && record !== undefined) undo(change, record, what ?? "", before);
    }
  }

  /** Forgets what came after a mark and is not wanted any more. */
  keepOnly(mark: number, isWanted: (change: Change, record: R) => boolean): void {
    let kept = mark;
    for (let at = mark; at < this.#changes.length; at++) {
      if (!isWanted(this.#changes[at]!, this.#records[at]!)) continue;
      if (kept === at) {
        kept++;
        continue;
      }
      this.#changes[kept] = this.#changes[at]!;
      this.#records[kept] = this.#records[at]!;
      this.#what[kept] = this.#what[at]!;
      this.#before[kept] = this.#before[at];
      kept++;
    }
    if (kept < this.size) this.#cut(kept);
  }

  clear(): void {
    this.#cut(0);
  }

  #cut(size: number): void {
    for (const list of [this.#changes, this.#records, this.#what, this.#before]) list.length = size;
  }
}
