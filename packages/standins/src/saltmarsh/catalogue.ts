/** What Saltmarsh tells of itself: the catalogue as JSON, the exports as tab-separated files (description, sections 6 and 8). */

import { languages, registers } from "./files.js";
import type { RegisterData, StoredRecord, SaltmarshStore } from "./store.js";

type Tags = (id: string) => string;

const list = (value: RegisterData[string] | undefined): readonly string[] => (Array.isArray(value) ? value : []);
const one = (value: RegisterData[string] | undefined): string | null => (typeof value === "string" ? value : null);

export function catalogueOf(store: SaltmarshStore) {
  const all = new Map(
    Object.keys(registers).flatMap((register) => store.register(register).map((held) => [held.id, held] as const)),
  );
  const tag: Tags = (id) => all.get(id)!.tag;
  const tell = (register: string, of: (held: StoredRecord) => object) =>
    store.register(register).map((held) => ({ tag: held.tag, ...of(held), ...textsOf(store, held.id) }));
  const ref = (value: RegisterData[string] | undefined): string | null => {
    const id = one(value);
    return id === null ? null : tag(id);
  };
  const titled = ({ data }: StoredRecord) => ({ title: one(data["Title"]) });
  return {
    branches: tell("branches", (held) => ({
      ...titled(held),
      under: ref(held.data["Under"]),
      rank: one(held.data["Rank"]),
      open: held.data["Open"] === "yes",
      ...locationOf(store, held, tag),
      stories: storiesOf(store, held.id),
    })),
    makers: tell("makers", titled),
    circles: tell("circles", titled),
    scales: tell("scales", (held) => ({ ...titled(held), rank: one(held.data["Rank"]) })),
    marks: tell("marks", (held) => ({ ...titled(held), scale: ref(held.data["Scale"]), rank: one(held.data["Rank"]) })),
    extras: tell("extras", (held) => ({
      ...titled(held),
      must: held.data["Must"] === "yes",
      rank: one(held.data["Rank"]),
    })),
    picks: tell("picks", (held) => ({
      ...titled(held),
      extra: ref(held.data["Extra"]),
      charge: one(held.data["Charge"]),
      chargeIs: one(held.data["Charge is"]),
      rank: one(held.data["Rank"]),
      takes: ref(held.data["Takes"]),
    })),
    clusters: tell("clusters", (held) => ({ ...titled(held), rank: one(held.data["Rank"]) })),
    traits: tell("traits", (held) => ({
      ...titled(held),
      cluster: ref(held.data["Cluster"]),
      sort: one(held.data["Sort"]),
      in: one(held.data["In"]),
      rank: one(held.data["Rank"]),
    })),
    baskets: tell("baskets", (held) => ({
      ...titled(held),
      goods: list(held.data["Goods"]).map(tag),
      rank: one(held.data["Rank"]),
    })),
    goods: tell("goods", (held) => ({
      ...titled(held),
      text: one(held.data["Text"]),
      maker: ref(held.data["Maker"]),
      branches: list(held.data["Branches"]).map(tag),
      scales: list(held.data["Scales"]).map(tag),
      extras: list(held.data["Extras"]).map(tag),
      nature: one(held.data["Nature"]),
      open: held.data["Open"] === "yes",
      seen: isSeen(store, held),
      ...locationOf(store, held, tag),
      facts: store
        .entries(held.id, "facts")
        .map(({ data }) => ({ trait: ref(data["Trait"]), says: one(data["Says"]) })),
      ...soldAs(held),
      ...listsOf(store, held.id, tag),
      parts: store
        .entries(held.id, "parts")
        .map(({ data }) => ({ part: ref(data["Part"]), count: one(data["Count"]) })),
      ties: store.entries(held.id, "ties").map(({ data }) => ({ sort: one(data["Sort"]), good: ref(data["Good"]) })),
    })),
    forms: tell("forms", (held) => ({
      good: ref(held.data["Good"]),
      marks: list(held.data["Marks"]).map(tag),
      rank: one(held.data["Rank"]),
      ...soldAs(held),
      ...listsOf(store, held.id, tag),
    })),
  };
}

function soldAs({ data }: StoredRecord) {
  return {
    code: one(data["Code"]),
    weight: one(data["Weight"]),
    barcode: one(data["Barcode"]),
    state: one(data["State"]),
    long: one(data["Long"]),
    wide: one(data["Wide"]),
    high: one(data["High"]),
    step: one(data["Step"]),
  };
}

/** Where a shopper, or a search engine, comes upon it. */
function locationOf(store: SaltmarshStore, { id, data }: StoredRecord, tag: Tags) {
  return {
    path: one(data["Path"]),
    seekTitle: one(data["Seek title"]),
    seekText: one(data["Seek text"]),
    circles: list(data["Circles"]).map(tag),
    bends: store.entries(id, "bends").map((bend) => ({ from: one(bend.data["From"]), lang: one(bend.data["Lang"]) })),
  };
}

function storiesOf(store: SaltmarshStore, id: string) {
  const stories: Record<string, string | null> = {};
  for (const lang of ["en", ...languages]) {
    const data = store.texts(id, `story ${lang}`);
    if (data) stories[lang] = one(data["Text"]);
  }
  return stories;
}

function listsOf(store: SaltmarshStore, id: string, tag: Tags) {
  return {
    numbers: store.entries(id, "numbers").map(({ data }) => ({ sort: one(data["Sort"]), number: one(data["Number"]) })),
    amounts: store.entries(id, "amounts").map(({ data }) => ({
      sort: one(data["Sort"]),
      from: one(data["From"]),
      circle: data["Circle"] === null ? null : tag(data["Circle"] as string),
      begins: one(data["Begins"]),
      ends: one(data["Ends"]),
      per: one(data["Per"]),
      amount: one(data["Amount"]),
    })),
    sights: store.entries(id, "sights").map(({ data }) => ({
      picture: one(data["Picture"]),
      role: one(data["Role"]),
      place: one(data["Place"]),
      says: one(data["Says"]),
      hidden: data["Hidden"] === "yes",
    })),
    stocks: store.entries(id, "stocks").map(({ data }) => ({
      store: one(data["Store"]),
      count: one(data["Count"]),
      orderAt: one(data["Order at"]),
      orderTo: one(data["Order to"]),
    })),
  };
}

function textsOf(store: SaltmarshStore, id: string) {
  const words: Record<string, Readonly<Record<"title" | "text" | "seekTitle" | "seekText", string | null>>> = {};
  for (const lang of languages) {
    const data = store.texts(id, lang);
    if (!data) continue;
    words[lang] = {
      title: one(data["Title"]),
      text: one(data["Text"]),
      seekTitle: one(data["Seek title"]),
      seekText: one(data["Seek text"]),
    };
  }
  return { words };
}

function isSeen(store: SaltmarshStore, good: StoredRecord): boolean {
  if (good.data["Open"] !== "yes") return false;
  const isOpen = (id: string): boolean => {
    for (let at: string | null = id; at !== null;) {
      const branch: StoredRecord = store.find(at)!;
      if (branch.data["Open"] !== "yes") return false;
      at = one(branch.data["Under"]);
    }
    return true;
  };
  if (!list(good.data["Branches"]).some(isOpen)) return false;
  const isHired = good.data["Nature"] === "hire";
  return [good, ...store.formsOf(good.id)].some(({ id }) =>
    store
      .entries(id, "amounts")
      .some(
        ({ data }) =>
          data["Sort"] === "price" &&
          data["From"] === null &&
          data["Circle"] === null &&
          data["Begins"] === null &&
          data["Ends"] === null &&
          (data["Per"] === null || isHired) &&
          data["Amount"] !== "0",
      ),
  );
}

const exported: Readonly<Record<string, readonly string[]>> = {
  marks: ["Scale", "Title"],
  picks: ["Extra", "Title"],
  baskets: ["Tag", "Title"],
  goods: ["Tag", "Title"],
  forms: ["Good", "Code"],
  branches: ["Under", "Title"],
};

export function exportOf(store: SaltmarshStore, register: string): string {
  const columns = exported[register] ?? ["Title"];
  const rows = store
    .register(register)
    .map(({ id, tag, data }) => [id, ...columns.map((column) => (column === "Tag" ? tag : (one(data[column]) ?? "")))]);
  return [["Id", ...columns], ...rows].map((cells) => `${cells.join("\t")}\n`).join("");
}
