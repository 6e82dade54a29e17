/** One generated target, the whole way: its files are built, rehearsed on an empty platform, and read again. */

import {
  build,
  planUpload,
  rehearse,
  valueOf,
  type Finding,
  type OpenedTarget,
  type ReadonlyFindings,
} from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSmall } from "../small-project.js";
import { openForced } from "./forced.js";
import { differencesReadBack } from "./read-back.js";
import { textOf } from "../layouts/generate.js";
import { generate, type DrawnTarget, type GeneratedTarget } from "./generate.js";

export interface Outcome {
  readonly generated: GeneratedTarget;
  readonly became: "rebuilt" | "refused at load" | "refused" | "rebuilt in part";
  readonly why: readonly string[];
}

export const shownAs = ({ code, facts, at }: Finding): string =>
  `${code} ${JSON.stringify(facts)} at ${at?.file}:${at?.line ?? ""}`;

/** Findings, before the rehearsal, of what the platform will not have. */
const losses: ReadonlySet<string> = new Set([
  "target/cut",
  "target/uncarried",
  "target/uncarried-kind",
  "target/left-out",
  "check/picture-missing",
  "check/related-to-itself",
]);

/** What is wrong with the records whatever the target. */
const despite: ReadonlySet<string> = new Set([
  "check/no-code",
  "check/no-choice",
  "check/no-hire-price",
  "check/offer-not-below",
]);

const errors = (findings: ReadonlyFindings): readonly Finding[] =>
  findings.list().filter(({ severity }) => severity === "error");

function shownOf({ target, plain }: GeneratedTarget): string {
  const { files, ...rest } = target as { readonly files: Readonly<Record<string, Readonly<Record<string, unknown>>>> };
  const others = Object.fromEntries(Object.entries(rest).filter(([word]) => word !== "endpoints"));
  const lines = Object.entries(files).map(([name, file]) => {
    const { layout, ...own } = file as { readonly layout: Record<string, unknown> };
    const { columns, rows, lanes, format, language } = layout;
    return `${name}: ${JSON.stringify({ rows, lanes, format, language })}\n  ${JSON.stringify(columns)}\n  ${JSON.stringify(own)}`;
  });
  return [JSON.stringify(others), ...lines, ...plain.map(textOf)].join("\n");
}

/** @throws where the rehearsal rebuilds something else than what is intended. */
export async function rebuild(drawn: DrawnTarget): Promise<Outcome> {
  const generated = generate(drawn);
  const { plain, target } = generated;
  const sheets = plain.map((sheet) => ({ layout: sheet.layout, text: textOf(sheet) }));
  const opened = await openSmall(sheets, target);
  if (!opened.ok) return { generated, became: "refused at load", why: errors(opened.findings).map(shownAs) };
  return carryOut(generated, opened.value);
}

/** What comes of a target that is refused, where it is loaded in spite of that: what went wrong; undefined where nothing did. */
export async function force(
  drawn: DrawnTarget,
): Promise<{ readonly why: readonly string[]; readonly wrong: string | undefined }> {
  const generated = generate(drawn);
  const sheets = generated.plain.map((sheet) => ({ layout: sheet.layout, text: textOf(sheet) }));
  try {
    const forced = await openForced(sheets, generated.target);
    const why = forced?.refused.map(shownAs) ?? [];
    if (!forced?.opened.ok) return { why, wrong: "it cannot be read at all" };
    const { value } = forced.opened;
    const wrong = await carryOut(generated, value).then(
      () => undefined,
      (error: unknown) => String((error as Error).message),
    );
    return { why, wrong };
  } catch (error) {
    return { why: [], wrong: String((error as Error).message) };
  }
}

/** @throws where the rehearsal rebuilds something else than what is intended. */
async function carryOut(generated: GeneratedTarget, value: OpenedTarget): Promise<Outcome> {
  const fail = async (message: string, holdBack: boolean): Promise<never> => {
    const { sink, files } = memoryFolder();
    await build(value, { sink, holdBack, despite, isUnrehearsed: true });
    const texts = await Promise.all([...files].map(async ([name, blob]) => `${name}\n${await blob.text()}`));
    throw new Error([message, shownOf(generated), ...texts.filter((text) => /^\d/.test(text))].join("\n"));
  };
  for (const holdBack of [false, true]) {
    const { sink, files } = memoryFolder();
    const built = await build(value, { sink, holdBack, despite });
    const found = errors(built.findings);
    const unforeseen = found.filter(({ code }) => code.startsWith("rehearse/"));
    // What is held back takes links with it; what the platform refuses for that is held back too.
    if (unforeseen.length > 0 && !holdBack) await fail(`unforeseen: ${unforeseen.map(shownAs).join(" ")}`, holdBack);
    if (!built.ok && !holdBack) continue;
    if (!built.ok) return { generated, became: "refused", why: found.map(shownAs) };
    const planned = valueOf(await planUpload(value, { holdBack, despite }));
    const verdict = valueOf(await rehearse(value, planned, { holdBack, despite, files: blobFiles(files) }));
    const said = built.findings.list().map(({ code }) => code);
    const became = holdBack ? "rebuilt in part" : "rebuilt";
    const isTold = said.some((code) => losses.has(code));
    if (!verdict.rebuilt && !isTold)
      await fail(`not rebuilt: ${JSON.stringify(verdict.differences)} ${said.join()}`, holdBack);
    const readBack = isTold ? undefined : await differencesReadBack(value, planned, blobFiles(files));
    if (readBack && readBack.length > 0) await fail(`read back otherwise: ${readBack.join(" ")}`, holdBack);
    return {
      generated,
      became,
      why: built.findings
        .list()
        .filter(({ severity }) => severity !== "note")
        .map(shownAs),
    };
  }
  throw new Error("never");
}
