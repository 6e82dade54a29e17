/**
 * A plan of what changes only: what is new by the usual plan, then the rows and columns of what is there and differs.
 *
 * In: what is intended, what the platform tells, the policies. Out: a plan, the catalogues that its files are written from, a rollback.
 */

import { entryOf } from "../checked.js";
import { targetsOf, type TargetView } from "../catalogue/catalogue.js";
import { picturesNamed } from "../check/pictures.js";
import { isHeldBack } from "../build/hold-back.js";
import type { Prepared } from "../build/prepare.js";
import type { PlatformComparison } from "../compare/comparison.js";
import type { PlatformCatalogue } from "../compare/held.js";
import { everything } from "../compare/coverage.js";
import { fixedFields } from "../compare/fixed-fields.js";
import { FieldTexts } from "../compare/field-texts.js";
import { sidesOf, type Sides } from "../compare/sides.js";
import type { ChangeWishes } from "../compare/policies.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Ledger } from "../ledger/ledger.js";
import { writtenKind } from "../layout/write/rows.js";
import { phrase } from "../phrases/phrase.js";
import { stepsAfter, stepsBefore } from "../plan/frame.js";
import { listsStep, neededLists } from "../plan/lists.js";
import type { AlreadyThere } from "../plan/placements.js";
import { stepsNow, type NeededList, type Step, type UploadStep } from "../plan/plan.js";
import { lookStep } from "../plan/spot-checks.js";
import type { SimulatedPlatform } from "../rehearse/platform/platform.js";
import { takesPicturesLast } from "../target/pictures.js";
import type { PlatformStep } from "../reshape/work.js";
import type { Target } from "../target/target.js";
import { unclearFindings } from "../match/unclear.js";
import { changeSteps, type StepsAsked } from "./change-steps.js";
import { deletingSteps } from "./deletions.js";
import { detachSteps, withoutDetachedAxes } from "./detach.js";
import { carryingColumns } from "./columns.js";
import type { IsKept } from "./delivered.js";
import { lostByRollback, takenBack } from "./lost.js";
import type { Redirect } from "./redirects.js";
import { asRollback, renumbered } from "./renumber.js";
import { rollbackSteps, touchedBy } from "./rollback.js";
import { comparedRows } from "./rows.js";
import { selectRows, WrittenCells, type Selecting } from "./select.js";
import { platformWith, withoutPresets } from "./platform-with.js";
import { changeViews, type ChangeView, type ChangeViews } from "./views.js";
import { wholeStep } from "./whole.js";
import { numbersWhere } from "../lists.js";

/** What a plan of changes is made from. */
export interface ChangeInput {
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly platform: PlatformCatalogue;
  readonly comparison: PlatformComparison;
  readonly ledger: Ledger;
  readonly wishes: ChangeWishes;
  /** What operations need done on the platform. */
  readonly tasks: readonly PlatformStep[];
  /** Addresses that change. */
  readonly redirects: readonly Redirect[];
  /** Whether all that is on the platform is to be replaced by what is intended. */
  readonly replaces: boolean;
}

/** Beyond all ids that platforms give out, so that none is met twice. */
const firstOwnId = 90_000_000;

/** What the planner has to know, and what a plan then becomes. */
export class Changes {
  readonly #sides: Sides;
  #views: ChangeViews;
  readonly there: AlreadyThere;
  /** By import: the records of which it changes anything, as `kind row`. */
  readonly #changedBy = new Map<string, ReadonlySet<string>>();

  constructor(readonly input: ChangeInput) {
    const { catalogue, comparison, ledger } = input;
    const { from } = comparison.sides;
    // Since the comparison more ids may be known.
    const isAsCompared = from.catalogue === catalogue;
    const idOf = (kind: string, key: string) => ledger.id(kind, key);
    this.#sides = isAsCompared ? comparison.sides : sidesOf({ ...from, catalogue, idOf });
    this.#views = this.#viewsWithout(() => false);
    this.there = this.#thereNow();
  }

  /** What the platform is to have in the end. Known for good once there is a plan. */
  get goal(): ChangeView {
    return this.#views.goal;
  }

  /** What it has before. */
  get before(): ChangeView {
    return this.#views.before;
  }

  #viewsWithout(isOut: (kind: string, row: number) => boolean): ChangeViews {
    const { target, platform, wishes, ledger, comparison, replaces, redirects } = this.input;
    const gone = new Set(
      comparison.records.flatMap(({ kind, there, state }) =>
        state === "no longer in your sources" ? [`${kind} ${there}`] : [],
      ),
    );
    return changeViews({
      sides: this.#sides,
      target,
      coverage: platform.coverage,
      wishes,
      replaces,
      redirects,
      idOf: (kind, key) => ledger.id(kind, key),
      isHeldBack: isOut,
      changedBy: comparison.changedBy,
      isGone: (kind, there) => gone.has(`${kind} ${there}`),
    });
  }

  #thereNow(): AlreadyThere {
    const { platform, ledger, catalogue, target, wishes } = this.input;
    const { matched, isThere, before } = this.#views;
    const isMatched = (kind: string, row: number) => isThere(kind, row) && matched.otherOf(kind, row) >= 0;
    const keyOf = (kind: string, row: number) => catalogue.table(kind).key(row);
    const pictures = new Set(picturesNamed(before.catalogue, (kind, row) => !before.isOut(kind, row)));
    return {
      isBegun: true,
      isFramed: true,
      hasPicture: (name) => pictures.has(name) || ledger.has("picture", name),
      isThere: (kind, row) =>
        // Kinds of which the export tells no records are made when rows name them.
        platform.coverage.records(kind) === "none" ||
        isMatched(kind, row) ||
        ledger.has(kind, keyOf(kind, row)) ||
        wishes.only === "update",
      isAdded: (update, kind, row) => {
        if (!isMatched(kind, row)) return ledger.has(kind, keyOf(kind, row), update) || wishes.only === "update";
        const slots = target.slots.filter(({ mode, updates }) => mode === "update" && updates.includes(update));
        return !slots.some((slot) => this.#changedIn(slot).has(`${kind} ${row}`));
      },
    };
  }

  /** The records of which an import changes anything. */
  #changedIn({ name, file: of, columns }: Target["slots"][number]): ReadonlySet<string> {
    const known = this.#changedBy.get(name);
    if (known) return known;
    const { goal, before, isThere } = this.#views;
    const file = entryOf(this.input.target.files, of);
    const found = new Set<string>();
    for (const layout of file.layouts) {
      const kind = writtenKind(layout, goal.catalogue);
      const below = layout.shape.child?.name ?? layout.shape.parent.name;
      const records = numbersWhere(goal.catalogue.table(kind).size, (row) => isThere(kind, row));
      const asked = { records, columns: columns && new Set(columns) };
      for (const { record, rows, gone } of comparedRows(goal, before, file, layout, asked)) {
        const changed = rows.filter((row) => row.changed.size > 0);
        if (changed.length > 0 || gone.size > 0) found.add(`${kind} ${record}`);
        for (const { child, isSingles } of changed) if (child >= 0 && !isSingles) found.add(`${below} ${child}`);
      }
    }
    this.#changedBy.set(name, found);
    return found;
  }

  /** Adds the changes to a plan of what is new, and leaves out what would change nothing. */
  plan(given: Prepared): Promise<Prepared> {
    const { catalogue, target, replaces } = this.input;
    const held = this.#withSingles(isHeldBack(given.heldBack));
    if (given.heldBack.byKind.size > 0) this.#views = this.#viewsWithout(held);
    const { before, released, goal, isThere, isOwn, deletions } = this.#views;
    // What is held back and is there stays as it is: it is not written, and what leads to it still does.
    const byKind = [...given.heldBack.byKind].map(
      ([kind, rows]) => [kind, new Set([...rows].filter((row) => !isThere(kind, row)))] as const,
    );
    const heldBack = { ...given.heldBack, byKind: new Map(byKind) };
    const written = new WrittenCells();
    const common = { target, kinds: catalogue.kinds, isThere };
    const from = withoutDetachedAxes(released, detachSteps(target, before, goal));
    const change = { ...common, to: goal, from };
    const stepsFor = (asked: Omit<StepsAsked, "target" | "kinds" | "isThere">) => changeSteps({ ...common, ...asked });
    const select = (steps: readonly Step[], { to, from, isWhole }: Omit<Selecting, "target" | "written">): Step[] =>
      steps.flatMap((step): Step[] => {
        if (step.is !== "upload") return [step];
        const chosen = selectRows(step, { target, written, to, from, isWhole });
        return chosen ? [chosen] : [];
      });
    const isOwnThere = (kind: string, row: number) => isOwn(kind, row) && isThere(kind, row);
    const release = stepsFor({ to: released, from: before, isFor: isThere, purpose: "release", leavesUpdates: false });
    const retire = stepsFor({
      ...change,
      isFor: (kind, row) => !isOwn(kind, row),
      purpose: "retire",
      leavesUpdates: false,
    });
    const own = stepsFor({ ...change, isFor: isOwnThere, purpose: "change", leavesUpdates: true });
    const releasing = select(release, { to: released, from: before });
    const steps = replaces
      ? this.#withTasks(
          select(wholeStep(this.input, given, heldBack, this.#listsOf(heldBack)), {
            to: goal,
            from: before,
            isWhole: true,
          }),
        )
      : this.#inOrder(
          select(given.plan.steps, change),
          releasing,
          [
            ...select([...own, ...retire], change),
            ...deletingSteps({ target, from: released, deleted: deletions.deleted }),
          ],
          heldBack,
        );
    const uploading = steps.flatMap((step) => (step.is === "upload" ? [step] : []));
    const kept = uploading.length > 0 ? this.#framed(steps, uploading) : steps.filter(({ is }) => is === "collect");
    const plan = { ...given.plan, steps: renumbered(kept) };
    const uploads = uploading.length;
    const now = stepsNow(plan).flatMap((step) => (step.is === "upload" ? [step] : []));
    return Promise.resolve({
      ...given,
      heldBack,
      ...this.#rollback(now),
      plan: { ...plan, cost: replaces ? { collections: 0, uploads: 1, postponed: 0 } : { ...plan.cost, uploads } },
    });
  }

  /** The variant that a single is on the platform is held back with the single. */
  #withSingles(isHeld: (kind: string, row: number) => boolean): (kind: string, row: number) => boolean {
    const { own } = this.#sides;
    return (kind, row) => {
      const { size } = this.input.catalogue.table(kind);
      const { of } = own.kinds.get(kind);
      const isSingles = of !== undefined && row >= size && row < own.table(kind).size;
      return isHeld(kind, row) || (isSingles && isHeld(of, own.table(kind).parent(row)));
    };
  }

  /** With what a person does before and after. */
  #framed(steps: readonly Step[], uploads: readonly UploadStep[]): Step[] {
    const { target } = this.input;
    const { goal } = this;
    const touched = new Set(
      [...touchedBy(target, this.#views, uploads)].map((name) => name.slice(name.indexOf(" ") + 1)),
    );
    const look = lookStep(
      goal.catalogue,
      target.slots.flatMap(({ creates }) => creates),
      (kind, row) => !touched.has(`${kind} ${row}`) || goal.isOut(kind, row),
    );
    return [...stepsBefore(target), ...steps, ...stepsAfter(target), ...(look ? [look] : [])];
  }

  /** All steps of a plan of changes, in their order. */
  #inOrder(
    planned: readonly Step[],
    release: readonly Step[],
    changes: readonly Step[],
    heldBack: Prepared["heldBack"],
  ): Step[] {
    const { target } = this.input;
    // Lists are set up for all that rows name, and so for what the platform keeps too.
    const isAny = planned.some(({ is }) => is === "upload");
    const isInOrder = (step: Step) => step.is !== "lists" && (step.is !== "test" || isAny) && !isOfRedirects(step);
    const inOrder = planned.filter(isInOrder);
    const waits = changes.some((step) => step.is === "upload" && this.#namesUnknownIds(step))
      ? [this.#collectStep()]
      : [];
    // An old address leads to the record only when that has its new one.
    const redirects = planned.filter(isOfRedirects);
    const all = putBefore(inOrder, (step) => isLate(step, target), [...waits, ...changes, ...redirects]);
    const steps = putBefore(all, ({ is }) => is === "upload", release);
    const lists = this.#listsOf(heldBack);
    if (lists.length > 0) steps.unshift(listsStep(target.name, lists, 0));
    return this.#withTasks([...detachSteps(target, this.before, this.goal), ...steps, ...this.#redirectSteps()]);
  }

  /** What rows of yours name, with what the platform keeps of them. */
  #listsOf(heldBack: Prepared["heldBack"]): NeededList[] {
    const { goal, isOwn } = this.#views;
    const isOut = isHeldBack(heldBack);
    const isLeftOut = (kind: string, row: number) => !isOwn(kind, row) || goal.isOut(kind, row) || isOut(kind, row);
    const { target } = this.input;
    return withoutPresets(neededLists(goal.catalogue, target, isLeftOut), target);
  }

  /** What sets the uploads of a folder back: files beside the steps, and what they cannot restore. */
  #rollback(uploads: readonly UploadStep[]): Required<Pick<Prepared, "rollback" | "lost">> {
    const { target, catalogue } = this.input;
    const views = this.#views;
    const touched = touchedBy(target, views, uploads);
    const { deleted } = takenBack(target, catalogue.kinds, views, touched);
    const input = { target, kinds: catalogue.kinds, views, uploads, touched, deleted };
    const deleting = deletingSteps({ target, from: views.back.released, deleted, isRollback: true });
    const named = asRollback([...rollbackSteps(input), ...deleting]);
    const { back } = views;
    return {
      rollback: [
        ...renumbered(detachSteps(target, this.goal, back.to)).flatMap((step) => (step.is === "detach" ? [step] : [])),
        ...named,
      ],
      lost: lostByRollback(input),
    };
  }

  /** The simulated platform as it is now. */
  start(): SimulatedPlatform {
    const { target, catalogue, ledger } = this.input;
    const { before } = this.#views;
    const idIn = (kind: string, key: string) => {
      const row = before.catalogue.table(kind).find(key);
      return row === undefined ? undefined : before.catalogue.table(kind).text("id", row);
    };
    const giveId = (kind: string, key: string, count: number) =>
      ledger.id(kind, key) ?? idIn(kind, key) ?? String(firstOwnId + count);
    const platform = platformWith(before, target, giveId);
    platform.addPictures([...picturesNamed(catalogue)].filter((name) => ledger.has("picture", name)));
    return platform;
  }

  /** Whether a field of an intended record stays otherwise than intended: it is not delivered. @param row of the record without singles. */
  kept(): IsKept {
    const { own } = this.#sides;
    const ofGoal = new FieldTexts(this.goal.catalogue);
    const known = new Map<string, ReadonlyMap<string, string>>();
    return (kind, row, field, value) => {
      const name = `${kind} ${row}`;
      let fields = known.get(name);
      if (!fields) known.set(name, (fields = new Map(ofGoal.of(own.kinds.get(kind), row, everything))));
      return fields.get(field) !== value;
    };
  }

  /** Old addresses, where no file of the target takes them. */
  #redirectSteps(): Step[] {
    const { target, redirects } = this.input;
    const isCarried = [...target.files.values()].some((file) =>
      file.layout.lanes.some(({ collection }) => collection === "redirects"),
    );
    if (isCarried || redirects.length === 0) return [];
    const shown = redirects.map(({ from, to }) => `${from} → ${to}`);
    return [
      {
        number: 0,
        is: "do",
        title: phrase("Set up the redirects"),
        why: phrase("Some addresses change. The old ones have to lead to the new ones: {0}.", shown),
      },
    ];
  }

  /** Whether rows name records by ids that are not known yet: a blank cell would clear what is there. */
  #namesUnknownIds({ slot, files, columns }: UploadStep): boolean {
    const { target } = this.input;
    const { catalogue } = this.goal;
    const file = entryOf(target.files, slot.file);
    return files.some(({ blocks }) =>
      blocks.some(({ layout, kind, records }) =>
        carryingColumns(target, file, file.layouts[layout]!, catalogue.kinds).some(
          ({ header, namesById, field, kind: of }) => {
            if (namesById === undefined || of !== kind || !(columns?.has(header) ?? true)) return false;
            const to = catalogue.table(namesById);
            const table = catalogue.table(kind);
            return records.some((row) =>
              targetsOf(catalogue, table, field, row).some((one) => typeof to.text("id", one) !== "string"),
            );
          },
        ),
      ),
    );
  }

  #collectStep(): Step {
    const { name } = this.input.target;
    return {
      number: 0,
      is: "collect",
      title: phrase("Collect the ids"),
      why: phrase("The next files name records by ids that only {0} gives out.", name),
    };
  }

  #withTasks(steps: readonly Step[]): Step[] {
    return [...this.#tasks("before", steps), ...steps, ...this.#tasks("after", steps)];
  }

  /** What operations need a person to do: what the platform and the files do by themselves is left out. */
  #tasks(when: PlatformStep["when"], changes: readonly Step[]): Step[] {
    const { tasks } = this.input;
    const isNeeded = ({ about: { kind, key } }: PlatformStep): boolean => {
      if (key === undefined) return this.#sides.identitiesOf(kind).some(({ is }) => is === "code");
      const row = this.#formerRow(kind, key);
      return row !== undefined && !this.goal.isOut(kind, row) && !isWrittenIn(changes, kind, row);
    };
    return tasks
      .filter((task) => task.when === when && isNeeded(task))
      .map(({ title, why }) => ({ number: 0, is: "do", title, why }));
  }

  /** The row in the goal of a record of the platform that was yours, and called so, before an operation. */
  #formerRow(kind: string, was: string): number | undefined {
    const { comparison } = this.input;
    const { there } = this.#sides;
    const [found] = [...(comparison.former.get(kind) ?? [])].flatMap(([row, one]) => (one.was === was ? [row] : []));
    if (found === undefined) return undefined;
    const table = this.goal.catalogue.table(kind);
    const key = there.table(kind).key(found);
    return Array.from({ length: table.size }, (_, row) => row).find(
      (row) => !this.#views.isOwn(kind, row) && table.key(row) === key,
    );
  }

  /** `kind row` of the goal, by its key. */
  #called(name: string): string {
    const [kind, row] = name.split(" ") as [string, string];
    return `${kind} ${this.goal.catalogue.table(kind).key(Number(row))}`;
  }

  /** What cannot be done, said. */
  report(findings: Findings): void {
    const { target, comparison, replaces } = this.input;
    const { matched } = this.#views;
    // Codes that are not of one record are reported by the checks.
    const unclear = matched.unclear.filter(({ by }) => typeof by === "string" || by.is !== "code");
    findings.addAll(unclearFindings({ own: matched.own, other: matched.other, unclear }, target.name));
    if (replaces)
      for (const { kind, key, state, became } of comparison.records)
        if (
          (kind === "product" || kind === "variant") &&
          // What an operation made others of needs no word more.
          became === undefined &&
          (state === "only on the platform" || state === "no longer in your sources")
        )
          findings.add(finding("change/would-delete", { kind, key, target: target.name }));
    const fixed = fixedFields(target, this.#sides.own.kinds);
    const kept = comparison.records.flatMap(({ kind, key, fields }) =>
      fields.flatMap(({ field, onPlatform }) =>
        fixed.has(`${kind}.${field}`) && onPlatform !== undefined ? [`${kind} ${key}: ${field}`] : [],
      ),
    );
    const undeleted = [...this.#views.deletions.kept].map((name) => this.#called(name));
    if (undeleted.length > 0)
      findings.add(
        finding("change/not-deleted", {
          count: undeleted.length,
          examples: undeleted.slice(0, 3),
          target: target.name,
        }),
      );
    if (kept.length > 0)
      findings.add(
        finding("change/never-changes", { count: kept.length, examples: kept.slice(0, 3), target: target.name }),
      );
    const { stays } = comparison;
    if (stays.length > 0)
      findings.add(
        finding("change/cannot-remove", { count: stays.length, examples: stays.slice(0, 3), target: target.name }),
      );
  }
}

const isOfRedirects = (step: Step): boolean =>
  step.is === "upload" &&
  step.slot.updates.length > 0 &&
  step.slot.updates.every((update) => update.endsWith(".redirects"));

const isWrittenIn = (steps: readonly Step[], kind: string, row: number): boolean =>
  steps.some(
    (step) =>
      step.is === "upload" &&
      step.files.some(({ blocks }) => blocks.some((block) => block.kind === kind && block.records.includes(row))),
  );

/** Pictures that are uploaded after the files. */
const isLate = ({ is }: Step, target: Target): boolean => is === "pictures" && takesPicturesLast(target);

/** Further steps before the first that fits; at the end where none does. */
function putBefore(steps: readonly Step[], fits: (step: Step) => boolean, more: readonly Step[]): Step[] {
  const first = steps.findIndex(fits);
  const at = first < 0 ? steps.length : first;
  return [...steps.slice(0, at), ...more, ...steps.slice(at)];
}
