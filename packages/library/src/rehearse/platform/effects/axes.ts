/**
 * What a product's variants differ in: axes by number, by name, or as a list in a cell, with their values. Where no file has rows of axes,
 * each product has axes of its own, and each of these its values: one for all variants that call it alike in all languages. Such a value
 * is never changed; what a variant calls otherwise is another one.
 */

import { nameField } from "../../../field-name.js";
import { present } from "../../../checked.js";
import type { UseOf } from "../columns.js";
import { recordsIn, textIn, valueOf, type HeldRecord } from "../held-record.js";
import type { Act, Effect, EffectsOf, RecordPlace } from "./effect.js";

type AxisUse = UseOf<"axis" | "axes" | "named-axis">;
/** Names by language; of an axis, or of a value. */
type NamesIn = Map<string, string>;

export const axisEffects: EffectsOf<AxisUse> = (uses, kind) => {
  const ofNames = uses.filter(({ feed }) => feed.holds === "name" || feed.holds === "names");
  const ofValues = uses.filter(({ feed }) => feed.holds === "value");
  const listed = uses.filter(({ feed }) => feed.is === "axes" && feed.holds === "values");
  const values = [...ofValues, ...listed];
  const effects: Effect[] = [];
  if (ofNames.length > 0 && kind.fields.some(({ name }) => name === "axes"))
    effects.push({ when: "first", apply: (place, actOf) => sayAxes(place, ofNames, actOf) });
  if (values.length > 0 && kind.fields.some(({ name }) => name === "values") && kind.of !== undefined)
    effects.push({ when: "after references", apply: (place, actOf) => sayValues(place, values, actOf) });
  return effects;
};

/** By the place of an axis: its names, where some column says them. */
function namesSaid(
  uses: readonly AxisUse[],
  actOf: (use: AxisUse) => Act,
  place: (use: AxisUse) => number,
): (NamesIn | undefined)[] {
  const said: (NamesIn | undefined)[] = [];
  const put = (at: number, lang: string, name: string): void => {
    (said[at] ??= new Map()).set(lang, name);
  };
  for (const use of uses) {
    const act = actOf(use);
    if (act.is === "leave") continue;
    if (use.feed.is === "axes") {
      const names = act.is === "say" ? (act.value as readonly string[]) : [];
      names.forEach((name, at) => put(at, use.feed.lang, name));
    } else put(place(use), use.feed.lang, act.is === "say" ? (act.value as string) : "");
  }
  return Array.from(said);
}

const numberOf = ({ feed }: AxisUse): number => (feed.is === "axis" ? feed.number - 1 : 0);

function sayAxes(place: RecordPlace, uses: readonly AxisUse[], actOf: (use: AxisUse) => Act): void {
  const { store, record, refuse, isNew, importing } = place;
  const main = present(place.axisLanguage);
  const said = namesSaid(uses, actOf, numberOf);
  const isSaid = uses.some((use) => use.feed.lang === main && actOf(use).is !== "leave");
  const old = recordsIn(record.fields, "axes");
  const isFilled = (names: NamesIn | undefined): boolean => (names?.get(main) ?? "") !== "";
  const count = isSaid ? said.findLastIndex(isFilled) + 1 : old.length;
  if (said.slice(count).some((names) => [...(names?.values() ?? [])].some((name) => name !== "")))
    refuse("an axis is left out");
  const names = Array.from({ length: count }, (_, at) =>
    isSaid ? (said[at]?.get(main) ?? "") : nameOf(old[at]!, main),
  );
  if (names.includes("")) refuse("an axis is left out");
  if (new Set(names).size < names.length) refuse("an axis comes twice");
  const isOther = names.length !== old.length || names.some((name, at) => name !== nameOf(old[at]!, main));
  if (
    isOther &&
    isSaid &&
    !isNew &&
    importing["axes of a known parent"] === "must match" &&
    store.childrenOf(record).length > 0 &&
    !store.isWithoutAxes(record)
  )
    refuse("the product's axes are others");
  const axes = names.map((name, at) => {
    // Axes go by their number: another name is another name of the same one, and values stay on it.
    const known = old[at]?.owner === record ? old[at] : undefined;
    const axis = known ?? axisNamed(place, main, name);
    if (known) store.set(known, nameField(main), name);
    nameIn(place, axis, said[at], main);
    return axis;
  });
  store.set(record, "axes", axes);
}

const nameOf = (record: HeldRecord, lang: string): string => textIn(record.fields, nameField(lang)) ?? "";

/** An axis of the product's own; one of the platform's, where axes have rows of their own. */
function axisNamed({ store, record, hasRows, refuse }: RecordPlace, main: string, name: string): HeldRecord {
  const [known] = hasRows("axis") ? store.find("axis", nameField(main), name) : [];
  if (known) return known;
  if (hasRows("axis")) refuse(`there is no axis "${name}"`);
  const axis = store.create("axis", { owner: record });
  store.set(axis, nameField(main), name);
  return axis;
}

/** Names in other languages; what has rows of its own keeps those that it has. */
function nameIn({ store, hasRows }: RecordPlace, record: HeldRecord, said: NamesIn | undefined, main: string): void {
  for (const [lang, name] of said ?? [])
    if (lang !== main && !hasRows(record.kind)) store.set(record, nameField(lang), name === "" ? undefined : name);
}

function sayValues(place: RecordPlace, uses: readonly AxisUse[], actOf: (use: AxisUse) => Act): void {
  const { store, record, refuse, isNew, hasRows } = place;
  const main = present(place.axisLanguage);
  const product = present(record.container);
  addNamedAxes(place, product, uses, actOf);
  const axes = recordsIn(product.fields, "axes");
  const placeOf = (use: AxisUse): number => {
    const { feed } = use;
    return feed.is === "named-axis"
      ? axes.findIndex((axis) => nameOf(axis, feed.axisLang) === feed.axis)
      : numberOf(use);
  };
  const isOnNone = (use: AxisUse) => use.feed.is === "named-axis" && placeOf(use) < 0;
  const said = namesSaid(
    uses.filter((use) => !isOnNone(use)),
    actOf,
    placeOf,
  );
  const isSaid = uses.some((use) => use.feed.lang === main && actOf(use).is !== "leave");
  const isBlank = (at: number) => (said[at]?.get(main) ?? "") === "";
  const old = recordsIn(record.fields, "values");
  if (isSaid ? axes.some((_, at) => isBlank(at)) : isNew && axes.length > 0) refuse("a value is missing");
  if (said.slice(axes.length).some((names) => [...(names?.values() ?? [])].some((name) => name !== "")))
    refuse("a value has no axis");
  const values = axes.flatMap((axis, at) => {
    const before = old.find(({ container }) => container === axis);
    const isBefore = before !== undefined && (!isSaid || nameOf(before, main) === (said[at]?.get(main) ?? ""));
    const names = said[at] ?? none;
    if (isSaid ? isBlank(at) : !isBefore) return [];
    if (!hasRows("value")) return [valueCalled(place, axis, isBefore ? before : undefined, names)];
    return [isBefore ? before : valueWithRow(place, axis, main, present(names.get(main)))];
  });
  store.set(record, "values", values);
}

/** A value that has a row of its own, by its name. */
function valueWithRow(place: RecordPlace, axis: HeldRecord, main: string, name: string): HeldRecord {
  const known = place.store.childrenOf(axis).find((value) => nameOf(value, main) === name);
  if (!known) place.refuse(`there is no value "${name}"`);
  return known ?? valueCalled(place, axis, undefined, new Map([[main, name]]));
}

/**
 * The value of an axis that has exactly these names; made, if there is none.
 *
 * @param like has the other names, in languages of which nothing is said.
 * @param said names by language; blank ones are none.
 */
function valueCalled({ store }: RecordPlace, axis: HeldRecord, like: HeldRecord | undefined, said: NamesIn): HeldRecord {
  const names = new Map<string, string>();
  like?.fields.each((field) => isName(field) && names.set(field, textIn(like.fields, field) ?? ""));
  for (const [lang, name] of said) names.set(nameField(lang), name);
  const wanted = [...names].filter(([, name]) => name !== "");
  const isCalled = ({ fields }: HeldRecord): boolean =>
    wanted.every(([field, name]) => textIn(fields, field) === name) &&
    !fields.some((field) => isName(field) && (names.get(field) ?? "") === "");
  if (like && isCalled(like)) return like;
  const known = store.ownedWhere(axis, isCalled);
  if (known) return known;
  const value = store.create("value", { owner: axis, container: axis });
  like?.fields.each((field, cell) => isName(field) || store.set(value, field, valueOf(cell)));
  for (const [field, name] of wanted) store.set(value, field, name);
  return value;
}

const none: NamesIn = new Map();
const isName = (field: string): boolean => field.startsWith("name@");

/** Where columns are called by their axis, a product has those axes on which its variants have values. */
function addNamedAxes(
  place: RecordPlace,
  product: HeldRecord,
  uses: readonly AxisUse[],
  actOf: (use: AxisUse) => Act,
): void {
  for (const use of uses) {
    const { feed } = use;
    if (feed.is !== "named-axis" || actOf(use).is !== "say") continue;
    const axes = recordsIn(product.fields, "axes");
    if (axes.some((axis) => nameOf(axis, feed.axisLang) === feed.axis)) continue;
    const owned = { ...place, record: product };
    place.store.set(product, "axes", [...axes, axisNamed(owned, feed.axisLang, feed.axis)]);
  }
}
