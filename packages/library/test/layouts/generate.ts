/** From what was drawn to layouts, and to the plain sheets with the same records. */

import fc from "fast-check";
import { dsvFormat } from "d3-dsv";
import {
  besides,
  plainSheet,
  type Binding,
  type Feature,
  type Given,
  type Kit,
  type Owner,
  type Part,
  type Placed,
  type PlainSheet,
} from "./feature.js";
import { features } from "./features.js";
import { formOf, shapeNames, type Form, type ShapeName } from "./forms.js";
import { things, type Things } from "./things.js";

const dsv = dsvFormat(";");
export const languageModes = ["columns", "rows", "files"] as const;
export const axisModes = ["numbered", "by number", "named", "in one cell"] as const;

export interface Drawn {
  readonly all: Things;
  readonly shape: ShapeName;
  readonly languages: (typeof languageModes)[number];
  readonly axes: (typeof axisModes)[number];
  readonly isLinked: boolean;
  readonly style: { readonly format: number; readonly header: number; readonly runs: boolean };
  /** Names of features, each with which of its ways. */
  readonly picked: readonly { readonly name: string; readonly way: number }[];
  readonly turn: number;
}

const names = Object.keys(features);
export const drawn: fc.Arbitrary<Drawn> = fc.record({
  all: things,
  shape: fc.constantFrom(...shapeNames),
  languages: fc.constantFrom(...languageModes),
  axes: fc.constantFrom(...axisModes),
  isLinked: fc.boolean(),
  style: fc.record({ format: fc.nat(23), header: fc.nat(29), runs: fc.boolean() }),
  picked: fc.uniqueArray(fc.record({ name: fc.constantFrom(...names), way: fc.nat(59) }), {
    maxLength: 6,
    selector: ({ name }) => features[name]!.instead ?? name,
  }),
  turn: fc.nat(40),
});

export interface Generated {
  /** Those with records that the layouts refer to, or add to: read before them. */
  readonly before: readonly PlainSheet[];
  /** What the layouts carry, plainly. */
  readonly plain: readonly PlainSheet[];
  readonly layouts: readonly Given[];
  /** What was combined, for counting: `feature 2 in grouped`. */
  readonly combined: readonly string[];
}

export function generate(given: Drawn): Generated {
  const form = formOf(given.shape, given.style);
  const sold = soldIn(form);
  const picked = given.picked.map(({ name, way }) => ({ name, way, feature: features[name]! }));
  const used = picked.map(({ feature }) => feature);
  const identity = identitySheet(given, form);
  const beside = besides(used, given.all);
  const plain = [...beside, identity, ...used.map((feature) => plainOf(feature, sold, given.all))];
  const { before, layouts, ways } = laidDown(given, form, picked);
  return {
    before: [...beside, ...(before ? [identity] : [])],
    plain,
    layouts,
    combined: [
      `shape: ${given.shape}`,
      `format: ${JSON.stringify(form.format)}`,
      `languages: ${given.languages}, ${given.shape}${given.isLinked ? ", linked" : ""}`,
      ...(form.hasVersions ? [`axes: ${given.axes}, ${given.shape}`] : []),
      ...ways.map((way) => `way: ${way}`),
      ...ways.map((way) => `cell: ${way}, ${given.shape}`),
    ],
  };
}

/** The kind whose records have prices and stock. Where variants come from lists of values, that is all there is of them. */
const soldIn = ({ hasVersions, isExpanded }: Form): "variant" | "product" =>
  hasVersions && !isExpanded ? "variant" : "product";

const keyOf = (at: number): string => `p${at}`;
const codeOf = (at: number, version: number): string => `c${at}-${version}`;

/** Products with their variants and axes. */
function identitySheet({ all, axes: mode }: Drawn, { hasVersions, isExpanded }: Form): PlainSheet {
  if (isExpanded) return expandedSheet(all, mode);
  if (!hasVersions)
    return plainSheet(
      { each: "product" },
      { Key: "product.key" },
      all.things.map((_, at) => [keyOf(at)]),
    );
  const columns: Record<string, Binding> = { Key: "product.key", Code: "variant.code" };
  for (const n of [1, 2])
    for (const lang of ["en", "de"]) {
      columns[`Axis ${n} ${lang}`] = { axis: n, holds: `name@${lang}` };
      columns[`Value ${n} ${lang}`] = { axis: n, holds: `value@${lang}` };
    }
  const german = (text: string, isSaid = all.isGerman) => (isSaid ? text : "");
  const rows = all.things.flatMap(({ axes, versions }, at) =>
    versions.map(({ values }, version) => [
      keyOf(at),
      codeOf(at, version),
      ...[0, 1].flatMap((axis) => {
        if (axis >= axes) return ["", "", "", ""];
        const name = version === 0 ? axisName(all, axis) : "";
        const value = `${values[axis]}${all.words[2 + axis]}`;
        return [
          name,
          `V${value}`,
          version === 0 ? german(`D${axis}${all.words[axis]}`, all.isGerman && mode !== "named") : "",
          german(`W${value}`),
        ];
      }),
    ]),
  );
  return plainSheet({ each: "variant", of: "product", "grouped by": "Key" }, columns, rows);
}

/** Products with every combination of their values. */
function expandedSheet(all: Things, mode: Drawn["axes"]): PlainSheet {
  const columns: Record<string, Binding> = { Key: "product.key" };
  for (const n of [1, 2])
    for (const lang of ["en", "de"]) {
      columns[`Axis ${n} ${lang}`] = { axis: n, holds: `name@${lang}` };
      columns[`Values ${n} ${lang}`] = { axis: n, holds: `values@${lang}`, as: { list: "|", escape: "!" } };
    }
  const rows = all.things.map(({ axes, versions }, at) => {
    const cells = [0, 1].flatMap((axis) => {
      if (axis >= axes) return ["", "", "", ""];
      const numbers = [...new Set(versions.map(({ values }) => values[axis]!))];
      const listed = (prefix: string) =>
        numbers.map((number) => `${prefix}${number}${all.words[2 + axis]}`.replace(/[!|]/g, "!$&")).join("|");
      const germanName = all.isGerman && mode !== "named" ? `D${axis}${all.words[axis]}` : "";
      return [axisName(all, axis), listed("V"), germanName, all.isGerman ? listed("W") : ""];
    });
    return [keyOf(at), ...cells];
  });
  return plainSheet({ each: "variant", of: "product", expanded: {} }, columns, rows);
}

const axisName = (all: Things, axis: number): string => `A${axis}${all.words[axis]}`;

function plainOf(feature: Feature, sold: string, all: Things): PlainSheet {
  const { columns, lane } = feature.plain(sold);
  const isSold = feature.of === "sold" && sold === "variant";
  const productKeys = all.things.map((_, at) => keyOf(at));
  const codes =
    sold === "variant"
      ? all.things.flatMap(({ versions }, at) => versions.map((_, version) => codeOf(at, version)))
      : [];
  const cellsOf = (owner: Pick<Owner, "words" | "numbers">, word: string) =>
    feature.rows({ ...owner, all, productKeys, codes }).map((cells) => [word, ...cells]);
  const rows = all.things.flatMap((thing, at) => {
    if (!isSold) return cellsOf(thing, keyOf(at));
    return thing.versions.flatMap((version, nth) => cellsOf(version, codeOf(at, nth)));
  });
  const link = isSold
    ? { each: "variant", "found by": { column: "Of record", names: "code" } }
    : { each: "product", "found by": { column: "Of record", names: "key" } };
  return plainSheet(link, { "Of record": { constant: "" }, ...columns }, rows, lane ? { lanes: { each: lane } } : {});
}

interface Picked {
  readonly name: string;
  readonly way: number;
  readonly feature: Feature;
}

function laidDown(
  { all, languages, axes, isLinked, style, turn }: Drawn,
  form: Form,
  picked: readonly Picked[],
): { readonly before: boolean; readonly layouts: readonly Given[]; readonly ways: readonly string[] } {
  const sold = soldIn(form);
  const soldAt = sold === "variant" ? "child" : "block";
  const texts: Kit["texts"] = (place, name, bindingOf) =>
    languages === "columns"
      ? [
          { place, name, binding: bindingOf("@en") },
          { place, name: `${name}-de`, binding: bindingOf("@de") },
        ]
      : [{ place, name, binding: bindingOf("") }];
  const kit: Kit = { isDocument: form.isDocument, sold, soldAt, all, texts };
  const chosen = picked.map(({ name, way, feature }) => {
    const at = way % feature.ways.length;
    return { name: `${name} ${at}`, part: prefixed(feature.ways[at]!(kit)) };
  });
  const axesOf = form.hasVersions ? axisPart(axes, kit, form) : { columns: [] };
  // Columns that name their axes tell no order of them but their own.
  const parts = [...chosen.map(({ part }) => part), ...(axes === "named" ? [] : [axesOf])];
  const named: Placed[] = [
    { place: "block", name: "Key", binding: "product.key" },
    ...(sold === "variant" ? [{ place: "child", name: "Code", binding: "variant.code" }] : []),
    ...turned(
      parts.flatMap(({ columns }) => columns),
      turn,
    ),
    ...(axes === "named" ? axesOf.columns : []),
    ...(form.modelRow ? [{ place: "block", name: "Name of none", binding: { constant: "" } }] : []),
  ];
  const ofLane = new Map(parts.flatMap(({ lanes = {} }) => Object.entries(lanes)));
  const headers = named.map(({ place, name }) => form.headerOf(place, name));
  const twice = headers.find((header, at) => headers.indexOf(header) !== at);
  if (twice !== undefined) throw new Error(`two columns "${twice}"`);
  // What stands beside a column names it as the form does.
  const asWritten = (place: string, binding: Binding): Binding => {
    if (typeof binding === "string" || !("beside" in binding)) return binding;
    return { ...binding, beside: form.headerOf(place, String(binding["beside"])) };
  };
  const columns = Object.fromEntries(
    named.map(({ place, name, binding }) => [form.headerOf(place, name), asWritten(place, binding)]),
  );
  const isRows = languages === "rows";
  const layout = (language: string): Given => ({
    layout: "generated",
    format: form.format,
    language,
    ...(form.header === undefined ? {} : { header: form.header }),
    rows: {
      ...form.rows,
      ...(isRows ? { language: { column: form.headerOf("block", "Lang"), "code words": { E: "en", D: "de" } } } : {}),
      ...(isLinked ? { "found by": { column: form.headerOf("block", "Item"), names: "key" } } : {}),
    },
    lanes: Object.fromEntries(
      [...ofLane].map(([place, lane]) => {
        const of = place.startsWith("child") ? "child" : "parent";
        return [place.split(":")[1]!, { ...lane, ...form.laneOf(place, of) }];
      }),
    ),
    cells: Object.assign({}, ...parts.map(({ cells = {} }) => cells)) as Given,
    listed: Object.assign({}, ...parts.map(({ listed = {} }) => listed)) as Given,
    columns,
    ...(style.header % 7 === 1 && !form.isDocument ? { ignore: ["Remarks"] } : {}),
    ...(form.modelRow ? { "model row": form.modelRow } : {}),
    ...(form.filledDown && !isRows && ofLane.size === 0 ? { "filled down": form.filledDown } : {}),
    ...(axes === "numbered" && form.hasVersions ? { numbered: 2 } : {}),
  });
  const written = (language: string) =>
    style.header % 11 === 4 && !form.isDocument ? byLetters(layout(language)) : layout(language);
  return {
    before: isLinked,
    layouts: [written("en"), ...(languages === "files" ? [written("de")] : [])],
    ways: chosen.map(({ name }) => name),
  };
}

/** The same without a header: columns are known by their letters. */
function byLetters(layout: Given): Given {
  const { rows, lanes, columns, cells, numbered } = layout as Record<string, Given>;
  const telling = [rows?.["language"], rows?.["found by"], rows?.["marker"], rows?.["joined by"]].flatMap((one) =>
    typeof one === "object" && one !== null && "column" in one ? [String(one.column)] : [],
  );
  const made = Object.values(cells ?? {}).flatMap((one) => Object.values(one as Given).flat());
  // Numbered columns, and those that are made of others, keep their headers.
  if (numbered !== undefined || made.length > 0 || Object.keys(layout["listed"] as Given).length > 0) return layout;
  const letters = new Map<string, string>();
  for (const header of [...telling, ...Object.keys(columns ?? {})])
    if (!letters.has(header)) letters.set(header, String.fromCharCode(65 + letters.size));
  if (letters.size > 26) return layout;
  const words = new Set(["column", "grouped by", "beside"]);
  const renamed = (value: unknown, word: string): unknown => {
    if (typeof value === "string")
      return words.has(word) || word === "continued when blank" ? (letters.get(value) ?? value) : value;
    if (Array.isArray(value)) return value.map((one) => renamed(one, word));
    if (typeof value !== "object" || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, renamed(one, name)]));
  };
  return {
    ...layout,
    header: "none",
    rows: renamed(rows, "rows"),
    lanes: renamed(lanes, "lanes"),
    columns: Object.fromEntries(
      Object.entries(columns ?? {}).map(([header, binding]) => [letters.get(header), renamed(binding, "binding")]),
    ),
    ...("filled down" in layout
      ? { "filled down": (layout["filled down"] as string[]).map((one) => letters.get(one) ?? one) }
      : {}),
    ...("model row" in layout ? { "model row": renamed(layout["model row"], "model row") } : {}),
    ignore: [],
  };
}

/** Lanes are told by whose they are: `child:tiers`. */
function prefixed(part: Part): Part {
  const lanes = Object.entries(part.lanes ?? {});
  if (lanes.length === 0) return part;
  const placeOf = (name: string) => {
    const lane = lanes.find(([one]) => one === name)?.[1];
    return lane === undefined ? name : `${lane.entries.startsWith("variant") ? "child" : "parent"}:${name}`;
  };
  return {
    ...part,
    lanes: Object.fromEntries(lanes.map(([name, lane]) => [placeOf(name), lane])),
    columns: part.columns.map((one) => ({ ...one, place: placeOf(one.place) })),
  };
}

function axisPart(mode: Drawn["axes"], { all, texts }: Kit, { isExpanded }: Form): Part {
  const at = [1, 2];
  const [place, value] = isExpanded ? (["block", "values"] as const) : (["child", "value"] as const);
  const listed = isExpanded ? { as: { list: "|", escape: "!" } } : {};
  if (mode === "numbered")
    return {
      columns: [
        ...texts("block", "Axis-{n}", (lang) => ({ axis: "{n}", holds: `name${lang}` })),
        ...texts(place, "Value-{n}", (lang) => ({ axis: "{n}", holds: `${value}${lang}`, ...listed })),
      ],
    };
  if (mode === "in one cell" && !isExpanded)
    return {
      columns: [
        ...texts("block", "Axes", (lang) => ({ axes: `names${lang}`, as: { list: "|", escape: "!", blanks: true } })),
        ...texts("child", "Values", (lang) => ({ axes: `values${lang}`, as: { list: " / ", blanks: true } })),
      ],
    };
  if (mode === "by number" || mode === "in one cell")
    return {
      columns: at.flatMap((n) => [
        ...texts(place, `Value-${n}`, (lang) => ({
          axis: n,
          holds: `${value}${lang}`,
          as: isExpanded ? { list: ", " } : { between: ["[", "]"] },
        })),
        ...texts("block", `Axis-${n}`, (lang) => ({ axis: n, holds: `name${lang}` })),
      ]),
    };
  return {
    columns: at.flatMap((n) =>
      texts(place, `On-${n}`, (lang) => ({ axis: `${axisName(all, n - 1)}@en`, holds: `${value}${lang}`, ...listed })),
    ),
  };
}

const turned = <T>(list: readonly T[], by: number): T[] => {
  const at = list.length === 0 ? 0 : by % list.length;
  return [...list.slice(at), ...list.slice(0, at)];
};

export const textOf = ({ rows }: PlainSheet): string => rows.map((row) => `${dsv.formatRow([...row])}\n`).join("");
