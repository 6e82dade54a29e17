/** A project in memory: plain sheets as its sources, and one target of its own. */

import {
  openProject,
  openTarget,
  readSourcesOf,
  type OpenedSources,
  type OpenedTarget,
  type Result,
} from "#src/index.js";
import { webPorts } from "#src/web/index.js";

export interface SmallSheet {
  readonly layout: unknown;
  readonly text: string;
}

/** Opens the target of a project of these sheets; fails where it, or a layout, has mistakes. @param target as its file says it. */
export async function openSmall(
  sheets: readonly SmallSheet[],
  target: unknown,
  languages: readonly string[] = ["en", "de"],
): Promise<Result<OpenedTarget>> {
  const sources = await openSources(sheets, target, languages);
  return sources.ok ? openTarget(sources.value, { target: "made-up" }) : sources;
}

/** The same, up to what the sources say. @param wishes of the project for its target. @param files beside it. */
export async function openSources(
  sheets: readonly SmallSheet[],
  target: unknown,
  languages: readonly string[] = ["en", "de"],
  wishes: object = {},
  files: Readonly<Record<string, string>> = {},
): Promise<Result<OpenedSources>> {
  const texts: Record<string, string> = {
    ...files,
    "project.yaml": JSON.stringify({
      project: "made up",
      sources: sheets.map((_, at) => ({ file: `sheet-${at}.csv`, layout: `sheet-${at}.yaml` })),
      languages,
      targets: [{ target: "made-up.yaml", ...wishes }],
    }),
    "made-up.yaml": typeof target === "string" ? target : JSON.stringify(target),
  };
  for (const [at, { layout, text }] of sheets.entries()) {
    texts[`sheet-${at}.csv`] = text;
    texts[`sheet-${at}.yaml`] = typeof layout === "string" ? layout : JSON.stringify(layout);
  }
  const blobs = new Map(Object.entries(texts).map(([name, text]) => [name, new Blob([text])]));
  const none = () => Promise.resolve(undefined);
  const project = await openProject(webPorts(blobs, none, none));
  return project.ok ? readSourcesOf(project.value) : project;
}
