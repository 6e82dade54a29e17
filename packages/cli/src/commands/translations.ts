import { type Command, projectArgument, outputOptions } from "../command.js";

export const translations: Command = {
  name: "translations",
  summary: "list the texts that are missing in a language, and write them for translators",
  argument: projectArgument,
  options: [
    { flags: "--into <language>", means: "the language to translate into" },
    { flags: "--out <file>", means: "write the list to this file: .xlsx, or .xlf for XLIFF 2 (default: only show it)" },
    { flags: "--every", means: "also list texts that are translated" },
    ...outputOptions,
  ],
  examples: [
    { line: "zest-tier translations --into fr", does: "shows what is missing in French" },
    {
      line: "zest-tier translations --into fr --out french.xlf",
      does: 'writes it for a translator; the translated file goes under "translations" in the project',
    },
  ],
  load: () => import("../run/translations.js"),
};
