/** Features that are references: one, lists, paths, by any way of naming, and fields of the records they name. */

import { gaps, list } from "./entry-features.js";
import { column, plainSheet, type Feature, type Given, type PlainSheet } from "./feature.js";
import type { Things } from "./things.js";

const key: Given = { by: "key" };
const byName: Given = { by: "name@en" };
const ofTheProduct = { missing: "create", within: "product" } as const;
const choices = (list: string, escape: string): Given => ({
  field: "choice",
  as: { list, escape, of: { by: "name@en" } },
});
const path = (separator: string, more: Given = {}): Given => ({ path: separator, escape: "!", by: "name@en", ...more });

const brands = (all: Things): PlainSheet[] => [
  plainSheet(
    { each: "brand" },
    { No: "brand.key", Id: "brand.id", Name: "brand.name@en" },
    [0, 1, 2].map((at) => [`b${at}`, String(100 + at), `B${at}${all.words[at]}`]),
  ),
];
const groups = (all: Things): PlainSheet[] => [
  plainSheet(
    { each: "option-group" },
    { No: "option-group.key", Name: "option-group.name@en", Must: "option-group.required" },
    [0, 1, 2].map((at) => [`g${at}`, `G${at}${all.words[at]}`, at === 0 ? "yes" : ""]),
  ),
];

/** Paths of up to three nodes, with names that tell where they stand; in German, where all have it. */
function pathsOf({ numbers, all }: { readonly numbers: readonly number[]; readonly all: Things }, most: number) {
  const paths = [numbers[0]! % 3, numbers[1]! % 3, numbers[2]! % 3]
    .slice(0, numbers[3]! % (most + 1))
    .map((root, at) => [root, ...numbers.slice(4 + at, 4 + at + (numbers[6 + at]! % 3)).map((number) => number % 2)]);
  const unique = [...new Map(paths.map((one) => [one.join(), one])).values()];
  return unique.map((one) => one.map((_, depth) => `${one.slice(0, depth + 1).join("")}${all.words[depth]}`));
}
/** @param signs what is escaped besides the escape itself. */
const escaped = (names: readonly string[], signs: string): string[] =>
  names.map((name) => [...name].map((sign) => (sign === "!" || signs.includes(sign) ? `!${sign}` : sign)).join(""));
const pathCells = (paths: readonly (readonly string[])[], prefix: string): string =>
  paths
    .map((names) =>
      escaped(
        names.map((name) => prefix + name),
        ">|",
      ).join(">"),
    )
    .join("|");
const english = (paths: readonly (readonly string[])[]) => pathCells(paths, "E");
const german = (paths: readonly (readonly string[])[]) => pathCells(paths, "D");

const plainPaths = (): ReturnType<Feature["plain"]> => ({
  columns: {
    Shelf: { field: "product.categories", as: list(path(">")), missing: "create" },
    Regal: { beside: "Shelf", as: list(path(">", { by: "name@de" })) },
  },
});

export const referenceFeatures = {
  brand: {
    of: "product",
    instead: "brand",
    beside: brands,
    plain: () => ({ columns: { Brand: { field: "product.brand", as: key } } }),
    rows: ({ numbers }) => [[numbers[5]! % 4 === 3 ? "" : `b${numbers[5]! % 4}`]],
    ways: [
      column("Brand", () => ({ field: "product.brand", as: key }), "block"),
      column("Brand", () => ({ field: "product.brand", as: byName }), "block"),
      column("Brand", () => ({ field: "product.brand", as: { by: "id" } }), "block"),
      column("Brand", () => ({ field: "product.brand", as: { by: "id or key" } }), "block"),
      column("Brand", () => ({ field: "product.brand", as: { between: ["by ", ""], of: byName } }), "block"),
    ],
  },
  "brand, created": {
    of: "product",
    instead: "brand",
    plain: () => ({
      columns: { Brand: { field: "product.brand", as: byName, missing: "create" }, Marke: "product.brand.name@de" },
    }),
    rows: ({ numbers, all }) => {
      const at = numbers[5]! % 4;
      return [at === 3 ? ["", ""] : [`B${at}${all.words[at]}`, `M${at}${all.words[at + 1]}`]];
    },
    ways: [
      () => ({
        columns: [
          { place: "block", name: "Brand", binding: { field: "product.brand", as: byName, missing: "create" } },
          { place: "block", name: "Marke", binding: "product.brand.name@de" },
        ],
      }),
    ],
  },
  paths: {
    of: "product",
    instead: "categories",
    plain: plainPaths,
    rows: (owner) => {
      const paths = pathsOf(owner, 3);
      return [[english(paths), owner.all.isGerman ? german(paths) : ""]];
    },
    ways: [
      () => ({
        columns: [
          {
            place: "block",
            name: "Shelf",
            binding: { field: "product.categories", as: list(path(" / ")), missing: "create" },
          },
          { place: "block", name: "Regal", binding: { beside: "Shelf", as: list(path(" / ", { by: "name@de" })) } },
        ],
      }),
      () => ({
        columns: [
          {
            place: "block",
            name: "Shelf",
            binding: { field: "product.categories", as: list(path("/", { root: "Shop" })), missing: "create" },
          },
          {
            place: "block",
            name: "Regal",
            binding: { beside: "Shelf", as: list(path("/", { root: "Laden", by: "name@de" })) },
          },
        ],
      }),
      () => ({
        lanes: { shelves: { entries: "product.categories" } },
        columns: [
          { place: "shelves", name: "Shelf", binding: { field: "shelves.each", as: path(">"), missing: "create" } },
          { place: "shelves", name: "Regal", binding: { beside: "Shelf", as: path(">", { by: "name@de" }) } },
        ],
      }),
    ],
  },
  "one path": {
    of: "product",
    instead: "categories",
    plain: plainPaths,
    rows: (owner) => {
      const paths = pathsOf(owner, 1);
      return [[english(paths), owner.all.isGerman ? german(paths) : ""]];
    },
    ways: [
      () => ({
        columns: [
          {
            place: "block",
            name: "Shelf",
            binding: { field: "product.categories", as: path(" / "), missing: "create" },
          },
          { place: "block", name: "Regal", binding: { beside: "Shelf", as: path(" / ", { by: "name@de" }) } },
        ],
      }),
      () => ({
        columns: [
          {
            place: "block",
            name: "Shelf",
            binding: { field: "product.categories", as: path(">", { root: "Shop" }), missing: "create" },
          },
          {
            place: "block",
            name: "Regal",
            binding: { beside: "Shelf", as: path(">", { root: "Shop", by: "name@de" }) },
          },
        ],
      }),
    ],
  },
  "nodes of a path": {
    of: "product",
    instead: "categories",
    plain: () => ({
      columns: {
        Shelf: { field: "product.categories", as: path(">"), missing: "create" },
        "Node-1": { field: "product.categories.name@de", node: 1 },
        "Node-2": { field: "product.categories.searchTitle@en", node: 2 },
      },
    }),
    rows: (owner) => {
      const [names] = pathsOf(owner, 1);
      if (!names) return [["", "", ""]];
      return [[escaped(names, ">").join(">"), `D${names[0]}`, names[1] === undefined ? "" : `T${names[1]}`]];
    },
    ways: [
      () => ({
        columns: [
          { place: "block", name: "Shelf", binding: { field: "product.categories", as: path("/"), missing: "create" } },
          { place: "block", name: "Node-1", binding: { field: "product.categories.name@de", node: 1 } },
          { place: "block", name: "Node-2", binding: { field: "product.categories.searchTitle@en", node: 2 } },
        ],
      }),
    ],
  },
  "a category's picture": {
    of: "product",
    instead: "categories",
    plain: () => ({
      columns: {
        Shelf: { field: "product.categories", as: list(byName), missing: "create" },
        Photo: { field: "product.categories.pictures(main).file", as: gaps() },
        Says: { field: "product.categories.pictures(main).alternative@en", as: gaps() },
      },
    }),
    rows: ({ numbers, all }) => {
      const shelves = [0, 1, 2].filter((at) => numbers[at]! % 2 === 0);
      const cell = (texts: readonly string[]) => (texts.every((one) => one === "") ? "" : texts.join("|"));
      return [
        [
          shelves.map((at) => `shelf ${at}`).join("|"),
          cell(shelves.map((at) => (at < 2 ? `p${at}.png` : ""))),
          cell(shelves.map((at) => (at === 0 ? escaped([all.words[at]!], "|")[0]! : ""))),
        ],
      ];
    },
    ways: [
      () => ({
        columns: [
          {
            place: "block",
            name: "Says",
            binding: { field: "product.categories.pictures(main).alternative@en", as: gaps() },
          },
          { place: "block", name: "Photo", binding: { field: "product.categories.pictures(main).file", as: gaps() } },
          {
            place: "block",
            name: "Shelf",
            binding: { field: "product.categories", as: list(byName), missing: "create" },
          },
        ],
      }),
    ],
  },
  "names of categories": {
    of: "product",
    instead: "categories",
    plain: () => ({
      columns: {
        Shelf: { field: "product.categories", as: list(byName), missing: "create" },
        Regal: { field: "product.categories.name@de", as: gaps() },
      },
    }),
    rows: ({ numbers, all }) => {
      const names = [0, 1, 2]
        .filter((at) => numbers[at]! % 2 === 0)
        .map((at) => `${at}${at === 1 ? all.words[at] : "shelf"}`);
      const german = all.isGerman ? names.map((name) => `D${name}`) : [];
      return [[escaped(names, "|").join("|"), escaped(german, "|").join("|")]];
    },
    ways: [
      () => ({
        columns: [
          {
            place: "block",
            name: "Shelf",
            binding: { field: "product.categories", as: list(byName), missing: "create" },
          },
          { place: "block", name: "Regal", binding: { field: "product.categories.name@de", as: gaps() } },
        ],
      }),
      () => ({
        columns: [
          {
            place: "block",
            name: "Shelf",
            binding: { field: "product.categories", as: { list: ", ", of: byName }, missing: "create" },
          },
          {
            place: "block",
            name: "Regal",
            binding: { field: "product.categories.name@de", as: { list: ", ", blanks: true } },
          },
        ],
      }),
    ],
  },
  "option groups": {
    of: "product",
    instead: "option groups",
    beside: groups,
    plain: () => ({ columns: { Groups: { field: "product.optionGroups", as: list(key) } } }),
    rows: ({ numbers }) => [
      [
        [0, 1, 2]
          .filter((at) => numbers[at + 6]! % 2 === 0)
          .map((at) => `g${at}`)
          .join("|"),
      ],
    ],
    ways: [
      column("Groups", () => ({ field: "product.optionGroups", as: list(key) }), "block"),
      column(
        "Groups",
        () => ({ field: "product.optionGroups", as: { list: " + ", escape: "\\", of: byName } }),
        "block",
      ),
      () => ({
        lanes: { groups: { entries: "product.optionGroups" } },
        columns: [{ place: "groups", name: "Group", binding: { field: "groups.each", as: key } }],
      }),
    ],
  },
  "option groups with choices": {
    of: "product",
    instead: "option groups",
    plain: () => ({
      columns: {
        Groups: {
          field: "product.optionGroups",
          as: {
            list: "|",
            escape: "!",
            of: { parts: "=", holds: ["name@en", { field: "choice", as: { list: "+", of: { by: "name@en" } } }] },
          },
          missing: "create",
        },
      },
    }),
    rows: ({ numbers, all }) => {
      const groupsOf = [0, 1].filter((at) => numbers[at + 6]! % 2 === 0);
      const named = (name: string) => escaped([name], "|=+")[0];
      return [
        [
          groupsOf
            .map(
              (at) =>
                `G${at}${named(all.words[at]!)}=${[0, 1].map((one) => `c${one}${named(all.words[one]!)}`).join("+")}`,
            )
            .join("|"),
        ],
      ];
    },
    ways: [
      column(
        "Choices",
        () => ({
          field: "product.optionGroups",
          as: {
            list: "; ",
            escape: "!",
            of: { parts: ": ", holds: ["name@en", { field: "choice", as: { list: ", ", of: { by: "name@en" } } }] },
          },
          missing: "create",
        }),
        "block",
      ),
    ],
  },
  "option groups of the product": {
    of: "product",
    instead: "option groups",
    plain: () => ({ columns: { Groups: { field: "product.optionGroups", as: list(byName), ...ofTheProduct } } }),
    // The same names on each product.
    rows: ({ numbers }) => [[[0, 1].flatMap((at) => (numbers[at + 6]! % 3 > 0 ? [`G${at}/`] : [])).join("|")]],
    ways: [
      column(
        "Group-names",
        () => ({ field: "product.optionGroups", as: { list: "; ", escape: "!", of: byName }, ...ofTheProduct }),
        "block",
      ),
      () => ({
        lanes: { groups: { entries: "product.optionGroups" } },
        columns: [{ place: "groups", name: "Group", binding: { field: "groups.each", as: byName, ...ofTheProduct } }],
      }),
    ],
  },
  "choices of the product": {
    of: "product",
    instead: "option groups",
    plain: () => ({
      columns: {
        Groups: {
          field: "product.optionGroups",
          as: { list: "|", escape: "!", of: { parts: "=", holds: ["name@en", choices("+", "!")] } },
          ...ofTheProduct,
        },
      },
    }),
    // With choices of its own in each.
    rows: ({ numbers, words }) => {
      const groupsOf = [0, 1].filter((at) => numbers[at + 6]! % 3 > 0);
      return [[groupsOf.map((at) => `G${at}/=c${at}${escaped([words[at]!], "|=+")[0]}+d`).join("|")]];
    },
    ways: [
      column(
        "Choices",
        () => ({
          field: "product.optionGroups",
          as: { list: "; ", escape: "!", of: { parts: ": ", escape: "!", holds: ["name@en", choices(", ", "!")] } },
          ...ofTheProduct,
        }),
        "block",
      ),
    ],
  },
  audience: {
    of: "product",
    plain: () => ({ columns: { For: { field: "product.visibleTo", as: list(byName), missing: "create" } } }),
    rows: ({ numbers, all }) => [
      [
        escaped(
          [0, 1].filter((at) => numbers[at + 8]! % 2 === 0).map((at) => all.words[at + 4]!),
          "|",
        ).join("|"),
      ],
    ],
    ways: [
      column("For", () => ({ field: "product.visibleTo", as: list(byName), missing: "create" }), "block"),
      column("For", () => ({ field: "product.visibleTo", as: { list: ";", of: byName }, missing: "create" }), "block"),
      () => ({
        lanes: { seen: { entries: "product.visibleTo" } },
        columns: [{ place: "seen", name: "By", binding: { field: "seen.each", as: byName, missing: "create" } }],
      }),
    ],
  },
} satisfies Record<string, Feature>;
