import type { Command } from "../command.js";

export const completion: Command = {
  name: "completion",
  summary: "print a script with which a shell completes commands, options and targets",
  argument: { flags: "<shell>", means: "bash, zsh or fish", choices: ["bash", "zsh", "fish"] },
  options: [],
  examples: [
    { line: "zest-tier completion bash >> ~/.bashrc", does: "completes in each new bash" },
    { line: "zest-tier completion zsh >> ~/.zshrc", does: "completes in each new zsh" },
  ],
  load: () => import("../run/completion.js"),
};
