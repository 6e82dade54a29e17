/** The German of phrases, by their English template. A phrase without an entry here does not compile. */

import { advicePhrasesDe } from "./de-advice.js";
import { layoutPhrasesDe } from "./de-layouts.js";
import { operationPhrasesDe } from "./de-operations.js";
import { targetPhrasesDe } from "./de-targets.js";
import { uploadPhrasesDe } from "./de-uploads.js";

export const phrasesDe = {
  ...advicePhrasesDe,
  ...layoutPhrasesDe,
  ...operationPhrasesDe,
  ...targetPhrasesDe,
  ...uploadPhrasesDe,
} as const;
