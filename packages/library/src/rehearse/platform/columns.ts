/** The columns of an uploaded file as a platform takes them: what each feeds, by which rule, how it looks up what it names. */

import { jointIn, listNamed } from "../../target/listed-names.js";
import { firstOf } from "../../checked.js";
import type { Feed, Layout, Scope } from "../../layout/layout.js";
import type { Header } from "../../nominal.js";
import type { LookUp, UnknownName } from "../../target/schema.js";
import type { TargetFile } from "../../target/target.js";
import { judging, refusesFormulas, type Judged, type JudgedColumn } from "../rules/judge-cell.js";

/** A column, and one of the fields that it feeds. */
export interface Use extends JudgedColumn {
  /** Its place among those of its layout. */
  readonly number: number;
  readonly header: Header;
  readonly feed: Feed;
  readonly scope: Scope;
  /** What a filled cell says, or why it is refused. */
  readonly judge: (text: string) => Judged;
  readonly lookedUp: LookUp;
  readonly unknown: UnknownName;
  /** The list of the platform in which its names have to be. */
  readonly list: { readonly name: string; readonly joint: string } | undefined;
  /** Whether the file takes its blank cells on rows in another language than the first for saying nothing. */
  readonly dependsOnLanguage: boolean;
}

/** A use of one kind of feed. */
export type UseOf<K extends Feed["is"]> = Use & { readonly feed: Extract<Feed, { readonly is: K }> };

export const isOf =
  <K extends Feed["is"]>(...kinds: readonly K[]) =>
  (use: Use): use is UseOf<K> =>
    (kinds as readonly string[]).includes(use.feed.is);

/** @param language of the rows that the layout is of, where each row is in a language. */
export function usesOf(file: TargetFile, layout: Layout): Use[] {
  const { importing, rules } = file;
  let number = 0;
  return layout.columns.flatMap(({ header, scope, bindings }) =>
    bindings.map(({ feed, codec }): Use => {
      const rule = rules.get(header);
      const inList = rule?.["in list"];
      const column: JudgedColumn = { header, feed, codec, rule, isWithoutFormulas: refusesFormulas(layout) };
      return {
        ...column,
        number: number++,
        header,
        scope,
        judge: judging(column),
        lookedUp: rule?.["looked up"] ?? importing["looked up"],
        // What a list of the platform has is there as soon as it is named.
        unknown: inList !== undefined ? "create" : (rule?.unknown ?? importing["unknown names"]),
        list: inList === undefined ? undefined : { name: listNamed(inList), joint: jointIn(inList) },
        dependsOnLanguage: languageOf(feed) !== undefined,
      };
    }),
  );
}

/** The language of what a column holds; undefined where it has none. */
export function languageOf(feed: Feed): string | undefined {
  switch (feed.is) {
    case "text":
    case "referred":
      return ofField(feed.field);
    case "entry":
      return feed.field.is === "text" ? ofField(feed.field.name) : feed.field.spec.lang;
    case "reference":
      return feed.spec.lang;
    case "axis":
    case "axes":
    case "named-axis":
    case "naming":
      return feed.lang;
    case "entries":
    case "key":
    case "shape":
    case "container":
      return undefined;
  }
}

const ofField = (field: string): string | undefined => /@(.+)$/.exec(field)?.[1];

/** Those of one scope. @param lane its name. */
export const ofScope = (uses: readonly Use[], is: Scope["is"], lane?: string): Use[] =>
  uses.filter(({ scope }) => scope.is === is && (scope.is !== "lane" || lane === undefined || scope.lane === lane));

/** The first of the layouts of a file. */
export const formOf = ({ layouts }: TargetFile): Layout => firstOf(layouts);
