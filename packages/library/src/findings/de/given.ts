/** The German of en/given.ts. */

import type { Translated } from "../definition.js";
import type { given as english } from "../en/given.js";
import { de, meintenSie } from "./wording.js";

const fehler: Translated<typeof english>["layout/mistake"]["says"] = (f) => `${de(f.problem)}${meintenSie(f.nearest)}`;

export const given: Translated<typeof english> = {
  "given/not-yaml": {
    says: (f) => `das ist kein gültiges YAML: ${de(f.problem)}`,
    remedy:
      "Korrigieren Sie die Zeile. Rücken Sie mit Leerzeichen ein und setzen Sie Texte mit : oder # in Anführungszeichen.",
  },
  "given/too-large": {
    says: (f) => `die Datei ist länger als ${f.most} Zeichen`,
    remedy: "Prüfen Sie, ob es die richtige Datei ist.",
  },
  "given/unknown-word": {
    says: (f) => `„${f.word}“ gibt es in ${de(f.inside)} nicht${meintenSie(f.nearest)}`,
    remedy: "Korrigieren oder entfernen Sie das Wort.",
  },
  "given/old-word": {
    says: (f) => `„${f.word}“ heißt jetzt „${f.now}“`,
    remedy: "Schreiben Sie das neue Wort. Die Bedeutung ist dieselbe.",
  },
  "given/wrong-value": {
    says: (f) => `der Wert von ${de(f.inside)} ist nicht zulässig: ${de(f.problem)}`,
    remedy: "Geben Sie einen Wert in der genannten Form an.",
  },
  "layout/none": {
    says: (f) => `es gibt kein Layout „${f.name}“${f.names.length > 0 ? `; das Ziel hat ${f.names.join(", ")}` : ""}`,
    remedy: "Geben Sie den Pfad einer Layoutdatei an, oder ZIEL/DATEI.",
  },
  "layout/mistake": { says: fehler, remedy: "Korrigieren Sie das Layout." },
  "target/mistake": { says: fehler, remedy: "Korrigieren Sie das Ziel (target)." },
  "project/missing": {
    says: () => "hier gibt es keine Projektdatei",
    remedy: "Nennen Sie eine Projektdatei oder einen Ordner mit project.yaml. Ein Beispiel zeigt zest-tier demo.",
  },
  "project/outside": {
    says: (f) => `„${f.path}“ führt aus dem Ordner des Projekts hinaus`,
    remedy:
      "Legen Sie die Datei in den Ordner. Wenn Sie diesem Projekt vertrauen, nennen Sie den anderen Ordner unter outside.",
  },
  "project/mistake": { says: fehler, remedy: "Korrigieren Sie die Projektdatei." },
  "calibrate/form-not-written": {
    says: (f) => `die Datei wurde in einer anderen Form zurückgeschrieben, als das Layout sagt: ${f.why}`,
    remedy: "Die Zellen werden trotzdem verglichen. Die Datei eines Ziels braucht eine Form, die geschrieben wird.",
  },
  "calibrate/rows-differ": {
    says: (f) => `${f.read} Zeilen wurden gelesen, aber ${f.written} zurückgeschrieben`,
    remedy: "Das Layout gruppiert die Zeilen anders als die Datei. Prüfen Sie die Spalte, die sie gruppiert.",
  },
};
