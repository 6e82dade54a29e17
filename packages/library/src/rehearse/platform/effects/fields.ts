/** Fields of the record itself: its key, its texts, what contains it; and cells that are fixed. */

import { fieldOfColumn } from "../../../field-name.js";
import { fieldOf } from "../../../kind.js";
import type { UseOf } from "../columns.js";
import { textIn } from "../held-record.js";
import { each, type Act, type RecordPlace } from "./effect.js";
import { namedRecord } from "./references.js";

export const keyEffects = each<UseOf<"key">>((use) => (place, actOf) => {
  const act = actOf(use);
  // A known record keeps its key.
  if (act.is === "say" && textIn(place.record.fields, "key") === undefined)
    place.store.set(place.record, "key", act.value as string);
});

export const textEffects = each<UseOf<"text">>((use, kind) => {
  const { field, otherwise } = use.feed;
  if (!fieldOf(kind, fieldOfColumn(field))) return undefined;
  // What a record is found by on the platform is the platform's own.
  if (field === "id") return undefined;
  const isPlain = !use.list && otherwise === undefined && !use.rule?.fixed;
  return (place, actOf) => {
    const act = actOf(use);
    if (act.is === "leave") return;
    // Most cells say a text, and most columns ask no more of it.
    if (isPlain && act.is === "say" && typeof act.value === "string")
      return place.store.set(place.record, field, act.value);
    const [value, isOther] = textOf(act);
    if (use.list && act.is === "say" && !place.store.isListed(use.list.name, value ?? ""))
      place.refuse(`${use.header}: "${value}" is not in the list ${use.list.name}`);
    setText(place, use, isOther ? (otherwise ?? field) : field, value, act);
    if (otherwise !== undefined) place.store.set(place.record, isOther ? field : otherwise, undefined);
  };
});

/** A text, or one that is none of the code words, which another field takes. */
function textOf(act: Act): readonly [value: string | undefined, isOther: boolean] {
  if (act.is === "begin") return [act.text, false];
  if (act.is !== "say") return [undefined, false];
  return typeof act.value === "string" ? [act.value, false] : [String(act.value[0] ?? ""), true];
}

function setText(
  { store, record, isNew, refuse }: RecordPlace,
  { header, rule }: UseOf<"text">,
  field: string,
  value: string | undefined,
  act: Act,
): void {
  if (rule?.fixed && !isNew && value !== undefined) {
    const old = textIn(record.fields, field);
    if (old !== undefined && old !== value) refuse(`${header}: never changes`);
  }
  store.set(record, field, value, act.is === "begin");
}

export const containerEffects = each<UseOf<"container">>((use) => (place, actOf) => {
  const act = actOf(use);
  if (act.is !== "say") return;
  place.lookUp(use, (now) => {
    const found = namedRecord(place, use, { spec: use.feed.spec }, act.value as string, now);
    if (!found) return;
    const { record, isNew, store } = place;
    if (use.rule?.fixed && !isNew && record.container && record.container !== found)
      now.refuse(`${use.header}: never changes`);
    store.contain(record, found);
  });
});

/** A fixed text stands there, or nothing. */
export const shapeEffects = each<UseOf<"shape">>((use, kind) => {
  const { constant } = use.feed;
  if (constant === undefined) return undefined;
  return (place, actOf) => {
    const act = actOf(use);
    if (act.is !== "say" || act.value === constant) return;
    place.refuse(`${use.header}: ${constant === "" ? `not of a ${kind.name}` : `only "${constant}"`}`);
  };
});
