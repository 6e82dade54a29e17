/** What a person does before the first upload and after the last; not numbered yet. */

import { phrase } from "../phrases/phrase.js";
import type { Target } from "../target/target.js";
import type { Step } from "./plan.js";

/** A backup, then the manual steps that the target asks for before. */
export const stepsBefore = (target: Target): Step[] => [
  {
    number: 0,
    is: "save",
    title: phrase("Save a backup of the platform"),
    why: phrase("You need it if the upload has to be undone."),
  },
  ...target.before.map(({ title, why }) => ({ number: 0, is: "do" as const, title, why })),
];

/** The manual steps that the target asks for afterwards. */
export const stepsAfter = (target: Target): Step[] =>
  target.after.map(({ title, why }) => ({ number: 0, is: "do", title, why }));
