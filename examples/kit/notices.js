/** Writes beside a page what of others is in it, in its workers too, with the texts of their licences. */

import { readdirSync, readFileSync } from "node:fs";

export const noticesFile = "third-party-notices.md";

/** The folder of a package that a module is of; undefined for our own. */
const packageOf = (id) => /^\0?(.*\/node_modules\/(?:@[^/]+\/)?[^/]+)\//.exec(id)?.[1];

function noticeOf(folder) {
  const { name, version, license } = JSON.parse(readFileSync(`${folder}/package.json`, "utf8"));
  const files = readdirSync(folder).filter((file) => /^(licen[cs]e|copying|notice)/i.test(file));
  const texts = files.sort().map((file) => readFileSync(`${folder}/${file}`, "utf8").trim());
  return `## ${name} ${version} (${license})\n\n${texts.length === 0 ? "It has no text of its licence." : `~~~text\n${texts.join("\n\n")}\n~~~`}`;
}

/** @returns plugins: for the page, and for the workers of the page. */
export function notices() {
  const folders = new Set();
  const collect = (bundle) => {
    for (const { modules = {} } of Object.values(bundle))
      for (const id of Object.keys(modules)) folders.add(packageOf(id));
    folders.delete(undefined);
  };
  return {
    page: {
      name: "notices",
      generateBundle(_, bundle) {
        collect(bundle);
        const parts = [...folders].map(noticeOf).sort();
        const source = `# What others made\n\nThese pages contain code of others, with these licences.\n\n${parts.join("\n\n")}\n`;
        this.emitFile({ type: "asset", fileName: noticesFile, source });
      },
    },
    worker: { name: "notices-of-worker", generateBundle: (_, bundle) => collect(bundle) },
  };
}
