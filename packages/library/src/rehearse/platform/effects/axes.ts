/**
 * What a product's variants differ in: axes by number, by name, or as a list in a cell, with their values. Where no file has rows of axes,
 * each product has axes of its own, and each of these its values: one for all variants that call it alike in all languages. Such a value
 * is never changed; what a variant calls otherwise is another one.
 */

import { nameField } from "../../../field-name.js";
import { present } from "../../../checked.js";
import type { UseOf } from "../columns.js";
import { recordsIn, valueOf, type HeldRecord } from "../held-record.js";
import { isCalled, isName, nameIn, SaidNames, overlaid } from "./axis-names.js";
import type { Act, Effect, EffectsOf, RecordPlace } from "./effect.js";

type AxisUse = UseOf<"axis" | "axes" | "named-axis">;

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
): (SaidNames | undefined)[] {
  let said: (SaidNames | undefined)[] = [];
  const put = (at: number, field: string, name: string): void => {
    const known = said[at];
    if (known) known.set(field, name);
    else said[at] = new SaidNames(field, name);
  };
  for (const use of uses) {
    const act = actOf(use);
    if (act.is === "leave") continue;
    const field = nameField(use.feed.lang);
    if (use.feed.is === "axes") {
      const names = act.is === "say" ? (act.value as readonly string[]) : none;
      if (said.length === 0) said = new Array<SaidNames | undefined>(names.length).fill(undefined);
      for (let at = 0; at < names.length; at++) put(at, field, names[at]!);
    } else put(place(use), field, act.is === "say" ? (act.value as string) : "");
  }
  return Array.from(said);
}

const none: readonly string[] = [];

const numberOf = ({ feed }: AxisUse): number => (feed.is === "axis" ? feed.number - 1 : 0);

function sayAxes(place: RecordPlace, uses: readonly AxisUse[], actOf: (use: AxisUse) => Act): void {
  const { store, record, refuse, isNew, importing } = place;
  const lang = present(place.axisLanguage);
  const main = nameField(lang);
  const said = namesSaid(uses, actOf, numberOf);
  const isSaid = saysIn(lang, uses, actOf);
  const old = recordsIn(record.fields, "axes");
  const isFilled = (names: SaidNames | undefined): boolean => (names?.get(main) ?? "") !== "";
  const count = isSaid ? said.findLastIndex(isFilled) + 1 : old.length;
  if (saysBehind(said, count)) refuse("an axis is left out");
  const names = Array.from({ length: count }, (_, at) =>
    isSaid ? (said[at]?.get(main) ?? "") : nameIn(old[at]!, main),
  );
  if (names.includes("")) refuse("an axis is left out");
  if (new Set(names).size < names.length) refuse("an axis comes twice");
  const isOther = names.length !== old.length || names.some((name, at) => name !== nameIn(old[at]!, main));
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
    if (known) store.set(known, main, name);
    nameOtherwise(place, axis, said[at], main);
    return axis;
  });
  store.set(record, "axes", axes);
}

/** Whether columns say names in a language. */
const saysIn = (lang: string, uses: readonly AxisUse[], actOf: (use: AxisUse) => Act): boolean =>
  uses.some((use) => use.feed.lang === lang && actOf(use).is !== "leave");

/** Whether there are names for a place behind so many axes. */
const saysBehind = (said: readonly (SaidNames | undefined)[], count: number): boolean =>
  said.length > count && said.slice(count).some((names) => names && !names.areBlank);

/** An axis of the product's own; one of the platform's, where axes have rows of their own. */
function axisNamed({ store, record, hasRows, refuse }: RecordPlace, main: string, name: string): HeldRecord {
  const [known] = hasRows("axis") ? store.find("axis", main, name) : [];
  if (known) return known;
  if (hasRows("axis")) refuse(`there is no axis "${name}"`);
  const axis = store.create("axis", { owner: record });
  store.set(axis, main, name);
  return axis;
}

/** Names in other languages; what has rows of its own keeps those that it has. */
function nameOtherwise(
  { store, hasRows }: RecordPlace,
  record: HeldRecord,
  said: SaidNames | undefined,
  main: string,
): void {
  if (hasRows(record.kind)) return;
  said?.each((field, name) => field === main || store.set(record, field, name === "" ? undefined : name));
}

function sayValues(place: RecordPlace, uses: readonly AxisUse[], actOf: (use: AxisUse) => Act): void {
  const { store, record, refuse, isNew, hasRows } = place;
  const lang = present(place.axisLanguage);
  const main = nameField(lang);
  const product = present(record.container);
  addNamedAxes(place, product, uses, actOf);
  const axes = recordsIn(product.fields, "axes");
  const placeOf = (use: AxisUse): number => {
    const { feed } = use;
    return feed.is === "named-axis" ? axes.findIndex(isNamed(feed)) : numberOf(use);
  };
  const isOnNone = (use: AxisUse) => use.feed.is === "named-axis" && placeOf(use) < 0;
  const said = namesSaid(uses.some(isOnNone) ? uses.filter((use) => !isOnNone(use)) : uses, actOf, placeOf);
  const isSaid = saysIn(lang, uses, actOf);
  const isBlank = (at: number) => (said[at]?.get(main) ?? "") === "";
  const old = recordsIn(record.fields, "values");
  if (isSaid ? axes.some((_, at) => isBlank(at)) : isNew && axes.length > 0) refuse("a value is missing");
  if (saysBehind(said, axes.length)) refuse("a value has no axis");
  const values: HeldRecord[] = [];
  for (let at = 0; at < axes.length; at++) {
    const axis = axes[at]!;
    const before = old.length === 0 ? undefined : old.find(({ container }) => container === axis);
    const isBefore = before !== undefined && (!isSaid || nameIn(before, main) === said[at]?.get(main));
    const names = said[at];
    if (isSaid ? isBlank(at) : !isBefore) continue;
    if (!hasRows("value")) values.push(valueCalled(place, axis, isBefore ? before : undefined, names));
    else values.push(isBefore ? before : valueWithRow(place, axis, main, present(names?.get(main))));
  }
  store.set(record, "values", values);
}

/** A value that has a row of its own, by its name. */
function valueWithRow(place: RecordPlace, axis: HeldRecord, main: string, name: string): HeldRecord {
  const known = place.store.childrenOf(axis).find((value) => nameIn(value, main) === name);
  if (!known) place.refuse(`there is no value "${name}"`);
  return known ?? valueCalled(place, axis, undefined, new SaidNames(main, name));
}

/**
 * The value of an axis that has exactly these names; made, if there is none.
 *
 * @param like has the names in all other languages.
 * @param said names by field; blank ones are none.
 */
function valueCalled(
  { store }: RecordPlace,
  axis: HeldRecord,
  like: HeldRecord | undefined,
  said: SaidNames | undefined,
): HeldRecord {
  const names = like ? overlaid(like, said) : said;
  if (like && isCalled(like, names)) return like;
  const known = store.ownedWhere(axis, (value) => isCalled(value, names));
  if (known) return known;
  const value = store.create("value", { owner: axis, container: axis });
  like?.fields.each((field, cell) => isName(field) || store.set(value, field, valueOf(cell)));
  names?.each((field, name) => store.set(value, field, name));
  return value;
}

/** Gives values of a record other names. What variants share stays for the others: this record gets another value. */
export function renameValues(
  place: RecordPlace,
  field: string,
  texts: ReadonlyMap<HeldRecord, string | undefined>,
): void {
  const { store, record } = place;
  const values = recordsIn(record.fields, "values").map((value) => {
    if (!texts.has(value)) return value;
    const { owner, container } = value;
    if (owner && owner === container)
      return valueCalled(place, owner, value, new SaidNames(field, texts.get(value) ?? ""));
    store.set(value, field, texts.get(value));
    return value;
  });
  store.set(record, "values", values);
}

const isNamed =
  ({ axis, axisLang }: UseOf<"named-axis">["feed"]) =>
  (record: HeldRecord): boolean =>
    nameIn(record, nameField(axisLang)) === axis;

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
    if (axes.some(isNamed(feed))) continue;
    const owned = place.otherwise({ record: product });
    place.store.set(product, "axes", [...axes, axisNamed(owned, nameField(feed.axisLang), feed.axis)]);
  }
}
