/** The same failure of a generated target, with as little as possible. */

import type { DrawnTarget } from "./generate.js";

/** @param fails whether a case fails in the same way. */
export async function smaller(from: DrawnTarget, fails: (one: DrawnTarget) => Promise<boolean>): Promise<DrawnTarget> {
  for (const one of tries(from)) if (await fails(one)) return smaller(one, fails);
  return from;
}

function tries(from: DrawnTarget): DrawnTarget[] {
  const { laid, rules, importer, extras } = from;
  const { all, style, picked, isLinked, languages, axes } = laid;
  const { things } = all;
  const withLaid = (more: Partial<typeof laid>): DrawnTarget => ({ ...from, laid: { ...laid, ...more } });
  const withThings = (list: typeof things) => withLaid({ all: { ...all, things: list } });
  return [
    ...rules.map((_, at) => ({ ...from, rules: rules.toSpliced(at, 1) })),
    ...importer.map((_, at) => ({ ...from, importer: importer.toSpliced(at, 1) })),
    ...extras.map((_, at) => ({ ...from, extras: extras.toSpliced(at, 1) })),
    ...picked.map((_, at) => withLaid({ picked: picked.toSpliced(at, 1) })),
    ...(isLinked ? [withLaid({ isLinked: false })] : []),
    ...(languages === "columns" ? [] : [withLaid({ languages: "columns" })]),
    ...(style.format > 0 ? [withLaid({ style: { ...style, format: 0 } })] : []),
    ...(style.header === 0 ? [] : [withLaid({ style: { ...style, header: 0 } })]),
    ...(axes === "by number" ? [] : [withLaid({ axes: "by number" })]),
    ...things.map((_, at) => withThings(things.toSpliced(at, 1))),
    ...things.flatMap((thing, at) =>
      thing.versions.map((_, nth) =>
        withThings(things.with(at, { ...thing, versions: thing.versions.toSpliced(nth, 1) })),
      ),
    ),
    ...(all.isGerman ? [withLaid({ all: { ...all, isGerman: false } })] : []),
  ].filter((one) => one.laid.all.things.length > 0 && one.laid.all.things.every(({ versions }) => versions.length > 0));
}
