/** The German of phrases, by their English template. A phrase without an entry here does not compile. */

import { layoutPhrasesDe } from "./de-layouts.js";
import { uploadPhrasesDe } from "./de-uploads.js";

export const phrasesDe = { ...layoutPhrasesDe, ...uploadPhrasesDe } as const;
