/** Sending an upload folder to a platform over HTTP, as the target describes its endpoints, and reading back what it holds. */

import { readFile } from "node:fs/promises";
import { join } from "node:path";
import type { Plan, Target } from "zest-tier";

/** What the platform said of a file's rows. */
export interface Delivered {
  readonly name: string;
  readonly refused: string | null;
  readonly rows: readonly { readonly line: number; readonly outcome: string; readonly reasons: readonly string[] }[];
}

/** @throws Error when the platform does not answer as described. */
export async function deliver(url: string, target: Target, plan: Plan, folder: string): Promise<Delivered[]> {
  const delivered: Delivered[] = [];
  for (const step of plan.steps) {
    if (step.is === "pictures") await post(url + target.endpoints.pictures, join(folder, step.name));
    if (step.is !== "upload") continue;
    for (const { name } of step.files) {
      const endpoint = target.endpoints.upload.replace("{name}", encodeURIComponent(name));
      delivered.push({ ...((await post(url + endpoint, join(folder, name))) as Delivered), name });
    }
  }
  return delivered;
}

export async function readBack(url: string, target: Target): Promise<unknown> {
  return answer(await fetch(url + target.endpoints.catalogue));
}

async function post(url: string, file: string): Promise<unknown> {
  return answer(await fetch(url, { method: "POST", body: await readFile(file) }));
}

async function answer(response: Response): Promise<unknown> {
  if (!response.ok)
    throw new Error(`${response.url} answered ${response.status}: ${(await response.text()).slice(0, 200)}`);
  return response.json();
}
