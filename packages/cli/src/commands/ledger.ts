import { type Command, outputOptions, projectArgument, targetOption } from "../command.js";

export const ledger: Command = {
  name: "ledger",
  summary: "show what is known to be on the platform, and correct it where a record was deleted there",
  argument: projectArgument,
  options: [
    targetOption,
    { flags: "--record <record>", means: 'show one record, as findings name it: "product smoker"' },
    {
      flags: "--unconfirm <record>",
      means: "the record is no longer on the platform: the next build makes it again (repeat it for several)",
      many: true,
    },
    { flags: "--restore <record>", means: "take an --unconfirm back (repeat it for several)", many: true },
    { flags: "--all", means: "list every record, and every finding" },
    ...outputOptions,
  ],
  examples: [
    { line: "zest-tier ledger --for saltmarsh", does: "counts what is known, kind by kind" },
    { line: 'zest-tier ledger --unconfirm "product smoker"', does: "has the next build make the product again" },
  ],
  load: () => import("../run/ledger.js"),
};
