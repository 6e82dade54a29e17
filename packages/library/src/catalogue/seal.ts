/** What others have been made of is closed: they share its parts. Writing to it afterwards is the caller's bug. */

export class Seal {
  #isClosed = false;

  close(): void {
    this.#isClosed = true;
  }

  /** @throws Error when closed. */
  check(): void {
    if (this.#isClosed) throw new Error("a catalogue is written to after another was made of it");
  }
}
