/**
 * What a change goes from and to: two catalogues with the same rows. One has what the platform tells, the other what it is to have.
 *
 * In: what is intended, what the platform tells, the policies. A row below `own` is of an intended record; those behind are of records
 * that only the platform has.
 */

import { asTargetView, type ResolvedBranch, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import type { Cell } from "../catalogue/cell.js";
import { addingLists } from "../compare/adding-lists.js";
import { hasByItself } from "../compare/by-itself.js";
import type { Coverage } from "../compare/coverage.js";
import { fixedFields } from "../compare/fixed-fields.js";
import { goalOf, type Goal, type GoalInput } from "../compare/goal.js";
import type { ChangeWishes } from "../compare/policies.js";
import type { Sides } from "../compare/sides.js";
import { deletionsOf, type Deletions } from "./deletions.js";
import type { Redirect } from "./redirects.js";
import { unnamedEntries } from "../compare/unnamed-entries.js";
import { fieldOf } from "../kind.js";
import { none, type Correspondence, type MatchInput } from "../match/correspondence.js";
import type { Target } from "../target/target.js";
import { Places } from "../target/places.js";

/** A catalogue of the two, and which of its records are not there. */
export interface ChangeView {
  readonly catalogue: TargetView;
  readonly isOut: (kind: string, row: number) => boolean;
  /** What of it is taken out on purpose; nothing, if left out. */
  readonly isGone?: (kind: string, row: number) => boolean;
}

/** What a change goes from and to. */
export interface ChangeViews {
  readonly before: ChangeView;
  /** The platform after codes were released that other records are to have; `before`, where there are none. */
  readonly released: ChangeView;
  readonly goal: ChangeView;
  /** For the rollback: what was there, where what is made keeps no code of it, and what comes in between. */
  readonly back: { readonly released: ChangeView; readonly to: ChangeView };
  /** Records of the platform that the change deletes. */
  readonly deletions: Deletions;
  readonly matched: Correspondence;
  /** Whether a row is of an intended record. */
  readonly isOwn: (kind: string, row: number) => boolean;
  /** Whether a record is on the platform before the change. */
  readonly isThere: (kind: string, row: number) => boolean;
}

/** What the two are made from. */
export interface ViewsInput extends Pick<GoalInput, "isGone" | "changedBy"> {
  readonly sides: Sides;
  readonly target: Target;
  /** What the exports tell. */
  readonly coverage: Coverage;
  readonly wishes: ChangeWishes;
  /** The platform's id of a record, as a ledger knows it. */
  readonly idOf: NonNullable<MatchInput["idOf"]>;
  /** What is held back: new records are not made, the others stay as they are. */
  readonly isHeldBack: (kind: string, row: number) => boolean;
  /** Whether all that is not intended is taken out. */
  readonly replaces: boolean;
  /** Redirects that this change brings: the platform has none of them yet, whether exports tell redirects or not. */
  readonly redirects: readonly Redirect[];
}

/** Makes the two catalogues of a change. */
export function changeViews(input: ViewsInput): ChangeViews {
  const { sides, target, coverage, wishes, isHeldBack, changedBy, isGone } = input;
  const { own, there, matched, identitiesOf } = sides;
  const isKnown = (kind: string, row: number) => matched.otherOf(kind, row) !== none;
  const isOwn = (kind: string, row: number) => row < own.table(kind).size;
  // Several of yours that are one there are it once.
  const isThere = (kind: string, row: number) =>
    !isOwn(kind, row) || (isKnown(kind, row) && matched.ownOf(kind, matched.otherOf(kind, row)) === row);
  const { kinds } = own;
  // An import of the whole range begins each record anew: what it does not name has that by itself again.
  const byItself = input.replaces ? undefined : hasByItself(target, kinds);
  const ofTarget = {
    unnamed: unnamedEntries(target),
    fixed: fixedFields(target, kinds),
    // What replaces all begins each list anew.
    adding: input.replaces ? undefined : addingLists(target, kinds),
    byItself,
  };
  const usual = { matched, coverage, ...ofTarget };
  const before = goalOf({ ...usual, wishes: { ...wishes, gone: "leave" }, keeps: () => true });
  const isFaulty = (kind: string, row: number) => isOwn(kind, row) && isHeldBack(kind, row);
  const goal = goalOf({ ...usual, wishes, changedBy, isGone, keeps: isFaulty });
  withoutNewRedirects(before.catalogue, input);
  for (const { catalogue: made, rowOf } of [before, goal]) giveIds(made, there, rowOf, isOwn, input.idOf);
  const isNotMade = (kind: string, row: number) =>
    (goal.notMade.get(kind)?.has(row) ?? false) || (isFaulty(kind, row) && !isKnown(kind, row));
  const emptied = endEmptied(goal.catalogue, before.catalogue, target, isOwn, () => false);
  const deletions = deletionsOf(
    goal.catalogue,
    target,
    toDelete(input, goal.rowOf, isOwn),
    (kind, row) => !isNotMade(kind, row) && !emptied.has(`${kind} ${row}`),
  );
  const isDeleted = (kind: string, row: number) => deletions.deleted.has(`${kind} ${row}`);
  const ended =
    deletions.deleted.size === 0
      ? emptied
      : new Set([...emptied, ...endEmptied(goal.catalogue, before.catalogue, target, isOwn, isDeleted)]);
  const coded = own.kinds.roots.filter((kind) => fieldOf(kind, "code"));
  // A platform that knows records by their codes moves them.
  const isByKey = coded.every(({ name }) => identitiesOf(name)[0]?.is === "key");
  const moved = isByKey ? releaseCodes(before.catalogue, goal.catalogue, isOwn, isThere, isNotMade) : before.catalogue;
  const isReplaced = input.replaces ? replacedBy(target) : () => false;
  const isGoalOut = (kind: string, row: number) =>
    isNotMade(kind, row) ||
    isDeleted(kind, row) ||
    ended.has(`${kind} ${row}`) ||
    (!isOwn(kind, row) && isReplaced(kind));
  const restored: ResolvedBranch = (before.catalogue as ResolvedCatalogue).branch();
  const letGo = isByKey
    ? releaseCodes(
        goal.catalogue,
        restored,
        isThere,
        (kind, row) => !isGoalOut(kind, row),
        (kind, row) => !isThere(kind, row),
      )
    : goal.catalogue;
  return {
    before: { catalogue: asTargetView(before.catalogue), isOut: (kind, row) => !isThere(kind, row) },
    released: { catalogue: asTargetView(moved), isOut: (kind, row) => !isThere(kind, row) },
    goal: {
      catalogue: asTargetView(goal.catalogue),
      isOut: isGoalOut,
      isGone: (kind, row) => !isOwn(kind, row) && isGoalOut(kind, row),
    },
    back: {
      released: { catalogue: asTargetView(letGo), isOut: isGoalOut },
      to: { catalogue: asTargetView(restored), isOut: (kind, row) => !isThere(kind, row) },
    },
    deletions,
    matched,
    isOwn,
    isThere: (kind, row) => !isOwn(kind, row) || isKnown(kind, row),
  };
}

function withoutNewRedirects(before: ResolvedBranch, { coverage, redirects }: ViewsInput): void {
  for (const { kind, row, from } of redirects) {
    const name = `${kind}.redirects`;
    if (before.kinds.get(kind).entries?.["redirects"] === undefined || coverage.entries(name) !== "none") continue;
    const table = before.table(name);
    for (const entry of [...table.childrenOf(row)]) if (table.text("from", entry) === from) table.reparent(entry, none);
  }
}

/** Puts in the ids of records that only the platform has: as it tells them, or as the ledger knows them. */
function giveIds(
  made: ResolvedBranch,
  there: ResolvedCatalogue,
  rowOf: Goal["rowOf"],
  isOwn: ChangeViews["isOwn"],
  idOf: ViewsInput["idOf"],
): void {
  for (const { name, fields } of there.kinds.roots) {
    if (!fields.some((field) => field.name === "id")) continue;
    const table = there.table(name);
    for (let row = 0; row < table.size; row++) {
      const at = rowOf(name, row);
      if (!isOwn(name, at) && table.text("id", row) === undefined)
        made.table(name).setText("id", at, idOf(name, table.key(row)));
    }
  }
}

/** The rows of records that were delivered, are in no source any more, and are to be deleted: as `kind row`. */
function toDelete(
  { wishes, replaces, isGone, sides: { there } }: ViewsInput,
  rowOf: Goal["rowOf"],
  isOwn: ChangeViews["isOwn"],
): ReadonlySet<string> {
  const found = new Set<string>();
  if (wishes.gone !== "delete" || replaces || !isGone) return found;
  for (const { name } of there.kinds.roots)
    for (let row = 0; row < there.table(name).size; row++) {
      const at = rowOf(name, row);
      if (isGone(name, row) && !isOwn(name, at)) found.add(`${name} ${at}`);
    }
  return found;
}

/** The kinds whose records have rows in the file that replaces all. */
function replacedBy({ replacing, files }: Target): (kind: string) => boolean {
  const layouts = (replacing && files.get(replacing.file)?.layouts) ?? [];
  const kinds = new Set(layouts.flatMap(({ shape }) => [shape.parent.name, shape.child?.name]));
  return (kind) => kinds.has(kind);
}

/**
 * Records that have given all that they contained to others. Where the platform deletes such a record, it is gone; else it is no longer
 * sold.
 *
 * @param isDeleted whether a row is deleted: it is in nothing any more.
 * @returns those that are gone, as `kind row`.
 */
function endEmptied(
  goal: ResolvedBranch,
  before: ResolvedCatalogue,
  target: Target,
  isOwn: ChangeViews["isOwn"],
  isDeleted: (kind: string, row: number) => boolean,
): ReadonlySet<string> {
  const gone = new Set<string>();
  const endsEmpty = [...target.files.values()].some(
    ({ importing, layouts }) =>
      importing["parent without children"] === "deleted" && layouts.some(({ shape }) => shape.child),
  );
  const places = new Places(goal, target);
  for (const kind of goal.kinds.roots) {
    const child = goal.kinds.childOf(kind.name);
    if (!child || !kind.single) continue;
    const [children, earlier] = [goal.table(child.name), before.table(child.name)];
    const table = goal.table(kind.name);
    for (let row = 0; row < table.size; row++) {
      if ([...earlier.childrenOf(row)].length === 0) continue;
      if ([...children.childrenOf(row)].some((one) => !isDeleted(child.name, one))) continue;
      if (endsEmpty) gone.add(`${kind.name} ${row}`);
      else if (!isOwn(kind.name, row)) {
        const [field, value] = places.shows(kind.name, "status") ? ["status", "ended"] : ["shown", "false"];
        if (fieldOf(kind, field) && places.shows(kind.name, field)) table.setText(field, row, value);
      }
    }
  }
  return gone;
}

/**
 * Codes that a record has and another is to have, where records are not known by their codes: the first lets go of it before. Records
 * that are no longer yours are no longer sold then.
 *
 * @param goal is changed where a record that only the platform has would keep the code.
 * @returns the platform after that.
 */
function releaseCodes(
  before: ResolvedCatalogue,
  goal: ResolvedBranch,
  isOwn: ChangeViews["isOwn"],
  isThere: ChangeViews["isThere"],
  isNotMade: (kind: string, row: number) => boolean,
): ResolvedCatalogue {
  const kinds = goal.kinds.roots.filter((kind) => fieldOf(kind, "code"));
  const wanted = new Map<string, string>();
  for (const { name } of kinds)
    for (let row = 0; row < goal.table(name).size; row++) {
      const code = goal.table(name).text("code", row);
      if (isOwn(name, row) && !isNotMade(name, row) && isCode(code)) wanted.set(code, `${name} ${row}`);
    }
  const released = before.branch();
  for (const kind of kinds) {
    const [table, there] = [goal.table(kind.name), before.table(kind.name)];
    const hasChildren = goal.kinds.childOf(kind.name) !== undefined;
    for (let row = 0; row < there.size; row++) {
      const code = there.text("code", row);
      const owner = isCode(code) && isThere(kind.name, row) ? wanted.get(code) : undefined;
      if (!isCode(code) || owner === undefined || owner === `${kind.name} ${row}`) continue;
      // A product and the one variant that it is have one code.
      const [of, at] = owner.split(" ") as [string, string];
      const other = goal.table(of);
      if (
        (kind.of === of && table.parent(row) === Number(at)) ||
        (other.kind.of === kind.name && other.parent(Number(at)) === row)
      )
        continue;
      const free: Cell = hasChildren ? undefined : `${code}-old`;
      released.table(kind.name).setText("code", row, free);
      if (isOwn(kind.name, row)) continue;
      table.setText("code", row, free);
      for (const made of [table, released.table(kind.name)])
        if (fieldOf(kind, "status")) made.setText("status", row, "ended");
    }
  }
  return released;
}

const isCode = (code: Cell): code is string => typeof code === "string" && code !== "";
