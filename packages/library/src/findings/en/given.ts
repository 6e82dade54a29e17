/** Findings in files that people write: layouts, targets, projects. */

import { error, note } from "../definition.js";
import { didYouMean, type Text } from "../wording.js";

type Mistake = { readonly problem: Text; readonly nearest: Text | undefined };
const mistake = (f: Mistake): string => `${f.problem}${didYouMean(f.nearest)}`;

export const given = {
  "given/not-yaml": error(
    (f: { problem: Text }) => `this is not valid YAML: ${f.problem}`,
    "Correct the line. Indent with spaces, and put texts that contain : or # in quotes.",
  ),
  "given/too-large": error(
    (f: { most: number }) => `the file is longer than ${f.most} characters`,
    "Check that this is the right file.",
  ),
  "given/unknown-word": error(
    (f: { word: string; inside: Text; nearest: string | undefined }) =>
      `"${f.word}" is not a word of ${f.inside}${didYouMean(f.nearest)}`,
    "Correct or remove the word.",
  ),
  "given/old-word": error(
    (f: { word: string; now: string }) => `"${f.word}" is now called "${f.now}"`,
    "Write the new word. Its meaning is the same.",
  ),
  "given/wrong-value": error(
    (f: { inside: Text; problem: Text }) => `the value of ${f.inside} is not allowed: ${f.problem}`,
    "Give a value of the form that the message names.",
  ),
  "layout/none": error(
    (f: { name: string; names: readonly string[] }) =>
      `there is no layout "${f.name}"${f.names.length > 0 ? `; the target has ${f.names.join(", ")}` : ""}`,
    "Give the path of a layout file, or TARGET/FILE.",
  ),
  "layout/mistake": error(mistake, "Correct the layout."),
  "target/mistake": error(mistake, "Correct the target."),
  "project/missing": error(
    (_: object) => "there is no project file here",
    "Name a project file, or a folder with a project.yaml. To see an example, run zest-tier demo.",
  ),
  "project/outside": error(
    (f: { path: string }) => `"${f.path}" leads out of the project's folder`,
    "Move the file into the folder. If you trust this project, name the other folder under outside.",
  ),
  "project/mistake": error(mistake, "Correct the project file."),
  "calibrate/form-not-written": note(
    (f: { why: Text }) => `the file was written back in another form than the layout says: ${f.why}`,
    "The cells are compared anyway. A target's file needs a form that is written.",
  ),
  "calibrate/rows-differ": error(
    (f: { read: number; written: number }) => `${f.read} rows were read, but ${f.written} were written back`,
    "The layout groups the rows in another way than the file does. Check the column that groups them.",
  ),
};
