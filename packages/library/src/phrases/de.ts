/** The German of phrases, by their English template. A phrase without an entry here does not compile. */

export const phrasesDe = {} as const;
