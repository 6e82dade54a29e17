/**
 * Sending an upload folder to a platform over HTTP, as the target describes its endpoints. What it answers is kept, and what is on it
 * afterwards is read back.
 */

import { mkdir, readFile, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { exportFileName, reportFileName, stepsNow, type Plan, type Target } from "zest-tier";

/** What the platform said of a file's rows. */
export interface DeliveredFile {
  readonly name: string;
  readonly refused: string | null;
  readonly rows: readonly { readonly line: number; readonly outcome: string; readonly reasons: readonly string[] }[];
}

/**
 * Sends what can be sent now: up to where ids have to be collected.
 *
 * @param reportsFolder the folder that reports and exports are saved in.
 * @throws Error when the platform does not answer as described.
 */
export async function deliver(
  url: string,
  target: Target,
  plan: Plan,
  folder: string,
  reportsFolder: string,
): Promise<DeliveredFile[]> {
  await mkdir(reportsFolder, { recursive: true });
  const delivered: DeliveredFile[] = [];
  const { endpoints } = target;
  for (const step of stepsNow(plan)) {
    if (step.is === "lists")
      for (const { name, entries } of step.lists)
        await post(url + endpoints.lists!.replace("{list}", encodeURIComponent(name)), JSON.stringify(entries));
    if (step.is === "pictures") await post(url + endpoints.pictures, await readFile(join(folder, step.name)));
    if (step.is !== "upload") continue;
    const endpoint = step.slot.endpoint ?? target.files.get(step.slot.file)!.endpoint ?? endpoints.upload;
    for (const { name } of step.files) {
      const to = endpoint.replace("{name}", encodeURIComponent(name));
      const report = (await post(url + to, await readFile(join(folder, name)))) as DeliveredFile;
      await writeFile(join(reportsFolder, reportFileName(name)), JSON.stringify(report));
      delivered.push({ ...report, name });
    }
  }
  await saveExports(url, target, plan, reportsFolder);
  return delivered;
}

/** The exports that tell the ids of what was sent. */
async function saveExports(url: string, target: Target, plan: Plan, reportsFolder: string): Promise<void> {
  const files = new Set(stepsNow(plan).flatMap((step) => (step.is === "upload" ? [step.slot.file] : [])));
  for (const name of files) {
    const file = target.files.get(name)!;
    if (file.ids?.in !== "export" || file.ids.endpoint === undefined) continue;
    const response = await fetch(url + file.ids.endpoint);
    if (!response.ok) throw new Error(`${response.url} answered ${response.status}`);
    await writeFile(join(reportsFolder, exportFileName(file)), new Uint8Array(await response.arrayBuffer()));
  }
}

export async function readBack(url: string, target: Target): Promise<unknown> {
  return answer(await fetch(url + target.endpoints.catalogue));
}

async function post(url: string, body: string | Uint8Array): Promise<unknown> {
  return answer(await fetch(url, { method: "POST", body }));
}

async function answer(response: Response): Promise<unknown> {
  if (!response.ok)
    throw new Error(`${response.url} answered ${response.status}: ${(await response.text()).slice(0, 200)}`);
  return response.json();
}
