/** Where parsed files are kept from one run of a program to the next. Nowhere, until somebody says where. */

/**
 * Keeps what files that people write were parsed to. It may forget anything, but gives back only what was added for
 * the same kind and text, by the same version of the program.
 */
export interface GivenStore {
  /** @param kind which schema the file was parsed by. */
  readonly get: (kind: string, text: string) => string | undefined;
  readonly add: (kind: string, text: string, kept: string) => void;
}

let store: GivenStore | undefined;

/** Keeps what is parsed from now on in a store, and takes it from there; no longer, if undefined. */
export function keepGivenIn(wanted: GivenStore | undefined): void {
  store = wanted;
}

export const givenStore = (): GivenStore | undefined => store;
