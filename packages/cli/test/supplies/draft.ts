/** The drafts of a supply, as the library makes them. */

import { Findings, type Draft } from "zest-tier";
import { draftLayout, lookAt } from "zest-tier/parts";
import type { SupplyFile } from "./files.js";

export async function draftSupply(files: readonly SupplyFile[]): Promise<readonly (Draft | undefined)[]> {
  return Promise.all(
    files.map(async ({ name, bytes }) => {
      const [sample] = await lookAt(asStream(bytes), name, new Findings());
      return sample && draftLayout(sample, name);
    }),
  );
}

async function* asStream(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield await Promise.resolve(bytes);
}
