/** A target, ready to use: a platform as its importer behaves, its layouts compiled. */

import type { Lang } from "../nominal.js";
import type { Layout } from "../layout/layout.js";
import type { GroupedColumns } from "./row-form.js";
import type { Demand, Slot } from "./slot.js";
import type { Importing } from "./importing.js";
import type { ColumnRule, GivenTarget, VisibleRule } from "./schema.js";

/** How the ids of a file's records are learned. */
export interface IdsTold {
  readonly in: "report" | "export";
  readonly endpoint: string | undefined;
  readonly layout: Layout | undefined;
  readonly matchedBy: readonly ("key" | "code" | "name" | "path")[];
}

/** A file that a platform takes or gives. */
export interface TargetFile {
  readonly name: string;
  /** The first of its layouts; most files have one. */
  readonly layout: Layout;
  /** Files of several kinds have a layout for each, all with the same columns; their rows come one kind after the other. */
  readonly layouts: readonly Layout[];
  /** By header. */
  readonly rules: ReadonlyMap<string, ColumnRule>;
  /** Where its rows are grouped: by which columns. */
  readonly grouped: GroupedColumns | undefined;
  /** How the importer works through it. */
  readonly importing: Importing;
  readonly endpoint: string | undefined;
  /** Columns without which the file is refused. */
  readonly mustHave: readonly string[];
  /** The columns that tell the entries of a record apart, where rows are entries. */
  readonly entryKey: readonly string[];
  readonly ids: IdsTold | undefined;
  readonly limits: {
    readonly products?: number | undefined;
    readonly bytes?: number | undefined;
    readonly "axes recommended"?: number | undefined;
  };
}

/** A file in which a platform tells what it has. */
export interface TargetExport {
  /** It is read by all of them. */
  readonly layouts: readonly Layout[];
}

/** A choice of a setting, and the languages of an account with it. */
export interface LanguageSetting {
  readonly setting: string;
  readonly choice: string;
  readonly languages: readonly Lang[];
}

/** A platform: its files, rules, importer and uploads, compiled. */
export interface Target {
  readonly name: string;
  readonly version: number;
  readonly languages: readonly Lang[];
  /** The languages that an account may have instead, by a setting of it. */
  readonly languageSettings: readonly LanguageSetting[];
  readonly endpoints: GivenTarget["endpoints"];
  readonly files: ReadonlyMap<string, TargetFile>;
  readonly slots: readonly Slot[];
  /** By list of the platform: what a project says is in it. */
  readonly has: ReadonlyMap<string, ReadonlySet<string>>;
  /** The slot whose file is the whole of what the platform is to hold. */
  readonly replacing: Slot | undefined;
  /** Imports that take out what they name, one a kind. */
  readonly deleting: readonly Slot[];
  /** What a reference, `kind.field`, asks of the order. */
  readonly demands: ReadonlyMap<string, Demand>;
  readonly visible: readonly VisibleRule[];
  /** By name: files in which it tells what it has, besides those that it takes. */
  readonly exports: ReadonlyMap<string, TargetExport>;
  readonly before: GivenTarget["before"];
  readonly after: GivenTarget["after"];
}
