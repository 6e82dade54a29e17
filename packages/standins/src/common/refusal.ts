/** What an importer refuses, with the reason that its report gives. */
export class Refusal extends Error {
  constructor(readonly reason: string) {
    super(reason);
  }
}
