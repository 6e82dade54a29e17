/**
 * A project for files that come without one: their layouts drafted together, the target, the fields that it needs and no file gives.
 *
 * What cannot be known is asked, each question with what is assumed until there is a reply. Nothing is written here.
 */

import { draftTogether } from "../draft/draft.js";
import { lookAt } from "../draft/look.js";
import { draftTarget } from "../draft/target.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { failure, resultOf } from "../findings/result.js";
import { samplesOf } from "./new-sources.js";
import { ProjectProposal, type MadeTarget, type NewProject, type NewProjectInput } from "./project-proposal.js";

/** Proposes a project. Fails where a file cannot be read, or none of them has rows that a layout can be drafted for. */
export async function proposeProject(input: NewProjectInput): Promise<Result<NewProject>> {
  const findings = new Findings();
  const samples = await samplesOf(input, findings);
  if (findings.hasErrors) return { ok: false, findings };
  if (samples.length === 0) return failure(finding("read/header-only", {}, { file: input.sources[0]?.file ?? "" }));
  const made = await targetOf(input, findings);
  if (!made) return { ok: false, findings };
  const project = new ProjectProposal(input, samples, made);
  if (!input.isQuick) await project.settle();
  return resultOf(project.proposed(), findings);
}

async function targetOf(
  { target, ports, replies }: NewProjectInput,
  findings: Findings,
): Promise<MadeTarget | undefined> {
  if (target.is === "shipped") return { named: target.name, questions: [] };
  if (target.is === "target") return { named: target.path, path: target.path, text: target.text, questions: [] };
  const bytes = findings.took(await ports.files.read(target.file));
  if (!bytes) return undefined;
  const [sample] = await lookAt(bytes, target.file, findings);
  if (!sample) {
    findings.add(finding("read/header-only", {}, { file: target.file }));
    return undefined;
  }
  const [draft] = draftTogether([{ file: target.file, name: target.name, sample }]);
  const { yaml, questions } = draftTarget(target.name, draft!.yaml, replies);
  const path = `${target.name}.yaml`;
  return { named: path, path, text: yaml, questions };
}
