/** What is on a platform: its catalogue, read by the layouts that its target describes. */

import { Findings, readExports, type ExportFile, type Kinds, type PlatformCatalogue, type Target } from "zest-tier";
import { readBack } from "./deliver.js";

/** The catalogue of a platform as a file that is read as an export. @param json as the platform answers. */
export function exportOf(json: unknown): ExportFile {
  const bytes = new TextEncoder().encode(JSON.stringify(json));
  async function* once() {
    yield bytes;
  }
  const read = () => Promise.resolve({ ok: true as const, value: once(), findings: new Findings() });
  return { file: "catalogue.json", files: { read, list: () => Promise.resolve([]) } };
}

/** @throws Error where the platform tells of itself otherwise than its target says. */
export async function readPlatform(url: string, target: Target, kinds: Kinds): Promise<PlatformCatalogue> {
  const findings = new Findings();
  const told = await readExports([exportOf(await readBack(url, target))], target, kinds, undefined, findings);
  if (!told) throw new Error(`${target.name}: ${JSON.stringify(findings.list()[0])}`);
  return told;
}
