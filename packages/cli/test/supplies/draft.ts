/** The drafts of a supply, as the library makes them of all its files together. */

import { Findings, type Draft } from "zest-tier";
import { draftTogether, lookAt } from "zest-tier/parts";
import type { SupplyFile } from "./files.js";

export async function draftSupply(files: readonly SupplyFile[]): Promise<readonly (Draft | undefined)[]> {
  const samples = await Promise.all(
    files.map(async ({ name, bytes }) => (await lookAt(asStream(bytes), name, new Findings()))[0]),
  );
  const given = files.flatMap(({ name }, at) => {
    const sample = samples[at];
    return sample ? [{ file: name, name, sample }] : [];
  });
  const drafts = draftTogether(given);
  return samples.map((sample) => drafts[given.findIndex((one) => one.sample === sample)]);
}

async function* asStream(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield await Promise.resolve(bytes);
}
