/** A stream of bytes that can be looked at before it is taken. */

export class ByteReader {
  readonly #source: AsyncIterator<Uint8Array>;
  #waiting: Uint8Array | undefined;

  constructor(bytes: AsyncIterable<Uint8Array>) {
    this.#source = bytes[Symbol.asyncIterator]();
  }

  /** The next bytes, at least so many unless there are no more; they are still there afterwards. */
  async peek(count: number): Promise<Uint8Array> {
    let head = this.#waiting ?? new Uint8Array(0);
    while (head.length < count) {
      const next = await this.#source.next();
      if (next.done) break;
      head = joined([head, next.value]);
    }
    this.#waiting = head;
    return head.subarray(0, count);
  }

  /** @returns undefined at the end. */
  async next(): Promise<Uint8Array | undefined> {
    const waiting = this.#waiting;
    this.#waiting = undefined;
    if (waiting && waiting.length > 0) return waiting;
    const next = await this.#source.next();
    return next.done ? undefined : next.value;
  }

  /** All bytes that are left, chunk by chunk. */
  async *[Symbol.asyncIterator](): AsyncGenerator<Uint8Array> {
    for (let chunk = await this.next(); chunk; chunk = await this.next()) yield chunk;
  }

  /** Puts bytes back before those that come next. */
  unread(bytes: Uint8Array): void {
    this.#waiting = joined([bytes, this.#waiting ?? new Uint8Array(0)]);
  }

  /** All bytes that are left; undefined when there are more than `most`. */
  async all(most: number): Promise<Uint8Array | undefined> {
    const chunks: Uint8Array[] = [];
    let total = 0;
    for (let chunk = await this.next(); chunk; chunk = await this.next()) {
      chunks.push(chunk);
      total += chunk.length;
      if (total > most) return undefined;
    }
    return joined(chunks);
  }
}

export function joined(chunks: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(chunks.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const chunk of chunks) {
    all.set(chunk, at);
    at += chunk.length;
  }
  return all;
}
