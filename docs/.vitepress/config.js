/** The site of the docs: `npm run site`. All pages of docs/, with a search over their text. */

import { readdirSync } from "node:fs";
import { defineConfig } from "vitepress";

const pagesIn = (folder) =>
  readdirSync(new URL(`../${folder}/`, import.meta.url))
    .filter((name) => name.endsWith(".md"))
    .map((name) => ({ text: titleOf(name), link: `/${folder}/${name.replace(".md", "")}` }));
const titleOf = (name) => {
  const words = name.replace(".md", "").replaceAll("-", " ");
  return `${words[0].toUpperCase()}${words.slice(1)}`;
};
const page = (text, link) => ({ text, link });

export default defineConfig({
  title: "Zest Tier",
  description: "Know before you upload: catalogue import files, checked and rehearsed.",
  outDir: "../dist/site",
  cacheDir: "../node_modules/.cache/vitepress",
  cleanUrls: false,
  // The application's own page is beside its code.
  ignoreDeadLinks: [/examples\/README/],
  themeConfig: {
    search: { provider: "local" },
    outline: [2, 3],
    nav: [page("First import", "/first-import"), page("Reference", "/reference/kinds"), page("Findings", "/findings")],
    sidebar: [
      {
        text: "Learn",
        items: [
          page("Your first import", "/first-import"),
          page("Layouts", "/layouts"),
          page("From a file to a layout", "/drafting"),
          page("Projects", "/projects"),
          page("Deriving fields", "/deriving"),
          page("Later imports", "/changing"),
          page("Reshaping", "/reshaping"),
          page("Targets", "/targets"),
          page("Workbench and shopfront", "/workbench"),
        ],
      },
      { text: "Recipes", collapsed: true, items: pagesIn("recipes") },
      { text: "Look up", items: [...pagesIn("reference"), page("Findings", "/findings"), page("Terms", "/terms")] },
      { text: "Commands", collapsed: true, items: pagesIn("commands") },
      { text: "Made-up platforms", collapsed: true, items: pagesIn("standins") },
      { text: "Build on it", items: [page("Architecture", "/architecture"), page("Benchmarks", "/bench")] },
    ],
  },
});
