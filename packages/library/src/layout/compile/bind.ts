/** One column of a layout, from how it is written to what it feeds: `product.name@de`, an axis, a field of a referenced record. */

import { fixOf, type GivenFix } from "../../codecs/fixes.js";
import { fitting, present } from "../../checked.js";
import { parseWritten } from "../../field-name.js";
import { phrase } from "../../phrases/phrase.js";
import type { Codec } from "../../codecs/codec.js";
import type { Binding, Feed, Lane } from "../layout.js";
import { feedKinds } from "../bindings/feed-kinds.js";
import { Mistake, scopeOf, type BindContext, type BindPlace, type Bound, type GivenField } from "../bindings/place.js";
import type { GivenBinding } from "../schema.js";

/**
 * @param number which of a numbered column's headers this is.
 * @throws Mistake with what is wrong; Consequence where that is reported elsewhere.
 */
export function bindOne(given: GivenBinding, number: number, context: BindContext): Bound {
  const place = placeOf(given, number, context);
  for (const { bind } of Object.values(feedKinds)) {
    const bound = bind(place);
    if (!bound) continue;
    if (place.is === "field" && place.entry && bound.binding.feed.is !== "referred")
      throw new Mistake(phrase("{0} leads further than there are fields", place.given.field));
    return bound;
  }
  throw new Error(`no kind of binding is of ${JSON.stringify(given)}`);
}

export function fixesOf(given: GivenBinding): { readonly name: string; readonly fix: (text: string) => string }[] {
  const list = typeof given === "object" && "fix" in given ? [given.fix ?? []].flat() : [];
  return list.map((one: GivenFix) => ({
    name: typeof one === "string" ? one : `pad ${one.pad}`,
    fix: fixOf(one),
  }));
}

function placeOf(given: GivenBinding, number: number, context: BindContext): BindPlace {
  if (typeof given === "string") return fieldPlace({ field: given }, context);
  if ("axis" in given) return { is: "axis", context, given, number };
  if ("axes" in given) return { is: "axes", context, given };
  if ("beside" in given) return { is: "beside", context, given };
  if ("constant" in given) return { is: "constant", constant: given.constant };
  return fieldPlace(given, context);
}

function fieldPlace(given: GivenField, context: BindContext): BindPlace {
  const parsed = parseWritten(given.field);
  if (!parsed) throw new Mistake(phrase('"{0}" is not a field. Write it like product.name@en', given.field));
  const { kind: word, field: first, constants, inner, entry, lang } = parsed;
  const scope = scopeOf(word, context);
  const { parent, child } = context.shape;
  const lane = scope.is === "lane" ? fitting(context.lanes, (one) => one.name === scope.lane) : undefined;
  const owner = (lane?.of ?? scope.is) === "parent" ? parent : present(child);
  return {
    is: "field",
    context,
    given,
    scope,
    lane,
    owner,
    first,
    constants,
    inner,
    entry,
    lang,
    bound: (feed, { codec, mistake }) => {
      if (mistake !== undefined) throw new Mistake(mistake);
      if (constants !== undefined && feed.is !== "entry" && feed.is !== "entries")
        throw new Mistake(phrase('{0} has no entries to tell apart by "{1}"', `${word}.${first}`, constants));
      checkSettings(given, feed, lane);
      return { scope, binding: bindingOf(feed, codec) };
    },
  };

  function bindingOf(feed: Feed, codec: Codec): Binding {
    return {
      feed,
      codec,
      blankEmpties: given.blank === "emptied",
      name: given.field,
      ...(given["line ends"] === undefined ? {} : { lineEnds: given["line ends"] }),
    };
  }
}

/** Words of a column that what it feeds does not take. @throws Mistake */
function checkSettings(given: GivenField, feed: Feed, lane: Lane | undefined): void {
  const takes = {
    // What contains a record is neither made nor waited for.
    missing: refers(feed) || (feed.is === "container" && given.missing === "error"),
    within: refers(feed),
    node: feed.is === "referred",
    "other words": feed.is === "text",
    // What a blank empties is a field of the record itself.
    blank: given.blank !== "emptied" || (feed.is === "text" && lane === undefined),
    // A row without its one cell has no reference.
    "blank means": lane?.holds !== "references",
  } satisfies Partial<Record<keyof GivenField, boolean>>;
  for (const [word, isTaken] of Object.entries(takes))
    if (given[word as keyof typeof takes] !== undefined && !isTaken)
      throw new Mistake(phrase('"{0}" is not for {1}', word, given.field));
}

function refers(feed: Feed): boolean {
  if (feed.is === "entry") return feed.field.is === "reference";
  if (feed.is === "entries") return feed.parts.some(({ is }) => is === "reference");
  return feed.is === "reference";
}
