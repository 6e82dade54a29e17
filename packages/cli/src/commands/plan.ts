import { allOption, type Command, formatOption, leniencyOptions, projectArgument, targetOption } from "../command.js";
import { coloursOf } from "../io.js";
import { planToJson, renderPlan } from "../render/plan.js";
import { exitCode, sayReport } from "../report.js";
import { openSession, prepare } from "../session.js";

export const plan: Command = {
  name: "plan",
  summary: "show what would be uploaded, in which order, and why",
  argument: projectArgument,
  options: [targetOption, allOption, formatOption, ...leniencyOptions],
  examples: [{ line: "zest-tier plan --target pennywort", does: "the steps for one of the project's targets" }],
  async run(given, io) {
    const opened = await openSession(given, io);
    const prepared = opened.ok ? prepare(opened.session) : undefined;
    const findings = opened.ok ? opened.session.findings : opened.findings;
    const text = prepared ? renderPlan(prepared.plan, coloursOf(io), io.width) : "";
    sayReport(
      { text, data: { command: "plan", plan: prepared ? planToJson(prepared.plan) : null } },
      findings,
      given,
      io,
    );
    return prepared && opened.ok ? exitCode(findings, opened.session.despite) : 1;
  },
};
