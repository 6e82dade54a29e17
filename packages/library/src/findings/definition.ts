/** What a finding is made of: its severity, its sentence, its remedy; and a text of it in another language. */

/** English, and with it the severity and the facts: the definition of a finding. */
export interface Definition<F> {
  readonly severity: Severity;
  /** One sentence without a full stop, made of the facts. The location is shown beside it and is not repeated in it. */
  readonly says: (facts: F) => string;
  /** What to do about it: whole sentences. */
  readonly remedy: string;
}

export const error = <F = object>(says: (facts: F) => string, remedy: string): Definition<F> => ({
  severity: "error",
  says,
  remedy,
});
export const warning = <F = object>(says: (facts: F) => string, remedy: string): Definition<F> => ({
  severity: "warning",
  says,
  remedy,
});
export const note = <F = object>(says: (facts: F) => string, remedy: string): Definition<F> => ({
  severity: "note",
  says,
  remedy,
});

/** The texts of a table of definitions in another language: all of them, each made of the same facts. */
export type Translated<Table> = {
  readonly [Code in keyof Table]: Table[Code] extends { readonly says: infer Says }
    ? { readonly says: Says; readonly remedy: string }
    : never;
};

/** Errors block a build. Warnings and notes do not. */
export type Severity = "error" | "warning" | "note";
