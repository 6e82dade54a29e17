/**
 * Which words of an importer the rehearsal of a change can play, by the form of a file's rows; what it cannot play is refused where a
 * change is asked for.
 *
 * In: the importer of a target. Out: the rules of the machine that plays the file.
 */

import { firstOf } from "../../checked.js";
import type { Layout } from "../../layout/layout.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import { importingOf, isAbout, type Importing } from "../importing.js";
import type { GivenImporter, LookUp } from "../schema.js";
import type { ImporterRules, RecordRules } from "./played.js";

type Said = Importing;

/** How the rows of a file are played: a product's rows together, its own row before those of its variants, or each by itself. */
export type RowForm = "grouped" | "own row" | "flat" | "linked";

export function rowFormOf({ shape, link }: Layout): RowForm {
  if (link) return "linked";
  if (shape.is === "grouped") return "grouped";
  return shape.is === "own-row" ? "own row" : "flat";
}

/** The words of which a change plays some values only: lists that add are compared as if they replaced. */
const played: { readonly lists: readonly Said["lists"][]; readonly "known record": readonly Said["known record"][] } = {
  lists: ["replace"],
  "known record": ["update"],
};

/** When the names in a file can be looked up in the rehearsal: a row that is taken is not taken back. */
export function playedLookUps(form: RowForm, said: Pick<Said, "refusal costs">): readonly LookUp[] {
  if (form === "grouped") return ["at the end of the file"];
  return said["refusal costs"] === "file" ? ["as rows arrive", "at the end of the file"] : ["as rows arrive"];
}

/** What the rehearsal of a change cannot play, at a word of the importer. */
export interface Unplayed {
  readonly word: keyof GivenImporter;
  readonly problem: Text;
}

/** What a file's importer is, and what of it cannot be played. */
export function playedImporter(
  name: string,
  layouts: readonly Layout[],
  given: GivenImporter,
): { readonly importer: ImporterRules | RecordRules; readonly said: Said; readonly unplayed: readonly Unplayed[] } {
  const layout = firstOf(layouts);
  const form = rowFormOf(layout);
  const said = importingOf(given, layouts);
  const unplayed: Unplayed[] = (Object.keys(played) as (keyof typeof played)[]).flatMap((word) => {
    const values: readonly string[] = played[word];
    if (values.includes(said[word]) || !isAbout(word, layouts)) return [];
    const facts = [name, word, said[word], values.join(" | ")] as const;
    const problem = phrase('{0}: changes with "{1}: {2}" cannot be rehearsed yet, only with "{3}"', ...facts);
    return [{ word, problem }];
  });
  unplayed.push(...misidentified(name, layout, given, form));
  return { importer: form === "grouped" ? ofGroups(layout, said) : ofRecords(said), said, unplayed };
}

/** Whether some rows are of records of a kind; rows that say more of records which another file gives are not. */
export const hasRowsOf = (kind: string, layouts: readonly Layout[]): boolean =>
  layouts.some(({ shape, link }) => !link && (shape.parent.name === kind || shape.child?.name === kind));

/** How the machines tell which record a row is about: by its id, where there is a column for it, else by its key or code. */
function misidentified(name: string, layout: Layout, given: GivenImporter, form: RowForm): Unplayed[] {
  return Object.entries(given["identified by"] ?? {}).flatMap(([kind, ways]) => {
    const ofChild = layout.shape.child?.name === kind;
    if (form === "linked" || (!ofChild && layout.shape.parent.name !== kind)) return [];
    const hasId = layout.columns.some(({ bindings }) =>
      bindings.some(({ feed }) => feed.is === "text" && feed.field === "id"),
    );
    const plays = form === "flat" && hasId ? ["id", "key"] : [ofChild ? "code" : "key"];
    if (ways.join() === plays.join()) return [];
    const facts = [name, kind, ways.join(", "), plays.join(", ")] as const;
    const problem = phrase(
      '{0}: changes of a {1} identified by "{2}" cannot be rehearsed yet, only by "{3}"',
      ...facts,
    );
    return [{ word: "identified by" as const, problem }];
  });
}

function ofGroups(layout: Layout, said: Said): ImporterRules {
  const headerOf = (isIt: (feed: Layout["columns"][number]["bindings"][number]["feed"]) => boolean): string =>
    layout.columns.find(({ bindings }) => bindings.some(({ feed }) => isIt(feed)))?.header ?? "";
  const { shape } = layout;
  return {
    "parent by": shape.is === "grouped" ? shape.column : "",
    "child by": headerOf((feed) => feed.is === "text" && feed.field === "code"),
    "shared cells below the first row": said["shared cells below the first row"],
    "code of another product": said["child of another parent"],
    "product without codes": said["parent without children"] === "deleted" ? "deleted" : "stays",
    "axes of a known product": said["axes of a known parent"],
    "missing pictures": said["missing pictures"],
  };
}

function ofRecords(said: Said): RecordRules {
  return {
    plays: "records",
    header: said.header,
    "refusal costs": said["refusal costs"] === "file" ? "file" : "row",
    links: said["looked up"] === "at the end of the file" ? "at the end of the file" : "as rows arrive",
    "product without codes": said["parent without children"] === "refuse" ? "refuse" : "stays",
    "missing pictures": said["missing pictures"] === "awaited" ? "awaited" : "refuse",
  };
}
