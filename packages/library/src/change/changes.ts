/**
 * A plan of what changes only: what is new by the usual plan, then the rows and columns of what is there and differs.
 *
 * Every row is played on a simulated platform that holds what the export tells; a row that would change nothing is not written.
 */

import type { Key, Row } from "../nominal.js";
import { firstOf, entryOf, present } from "../checked.js";
import { targetsOf, type TargetView } from "../catalogue/catalogue.js";
import { picturesNamed } from "../check/pictures.js";
import { heldRows, isHeldBack } from "../build/hold-back.js";
import type { Prepared } from "../build/prepare.js";
import type { ComparedRecord, Comparison } from "../compare/compare.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Ledger } from "../ledger/ledger.js";
import { writtenKind } from "../layout/write/rows.js";
import { listsStep, neededLists } from "../plan/lists.js";
import type { AlreadyThere } from "../plan/placements.js";
import type { PlannedBlock, Step, UploadStep } from "../plan/plan.js";
import { originKey, type Intended } from "../rehearse/intended.js";
import { Registers } from "../rehearse/older/registers.js";
import { isOfRecords, intendedByTarget } from "../rehearse/intended-by-target.js";
import { laneKeys, platformHolding } from "../rehearse/older/start.js";
import type { Snapshot } from "../rehearse/snapshot.js";
import type { Shop } from "../rehearse/older/store.js";
import { recordsOfImports } from "../target/import-records.js";
import { takesPicturesLast } from "../target/pictures.js";
import { groupedRules, playsRecords, type Target, type TargetFile } from "../target/target.js";
import { carryingColumns, cellOf, identityHeaders, isOf, withPartners, type CarryingColumn } from "./columns.js";
import { withoutIdleRows } from "./idle-rows.js";
import { endingOf, goneSettings, literalStep, releaseSettings, withFields, withoutEmptied } from "./literal.js";
import { planWhole } from "./whole.js";
import type { Redirect } from "./redirects.js";
import { settle, type Settled } from "./policy.js";
import type { ChangeWishes } from "../compare/policies.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** What a plan of changes is made from. */
export interface ChangeInput {
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly intended: Intended;
  readonly onPlatform: Snapshot;
  readonly comparison: Comparison;
  /** The comparison again, where what is intended is less: without what is held back. */
  readonly compare: (intended: Intended) => Comparison;
  readonly ledger: Ledger;
  readonly wishes: ChangeWishes;
  /** What operations need done on the platform first. */
  readonly tasks: readonly { readonly title: Text; readonly why: Text }[];
  /** Addresses that change. */
  readonly redirects: readonly Redirect[];
  /** Whether all that is on the platform is to be replaced by what is intended. */
  readonly replaces: boolean;
}

/** What the planner has to know, and what a plan then becomes. */
export class Changes {
  #input: ChangeInput;
  #settled: Settled;
  readonly there: AlreadyThere;

  constructor(input: ChangeInput) {
    this.#input = input;
    this.#settled = this.#settle(input.comparison.records);
    this.there = this.#view();
  }

  get input(): ChangeInput {
    return this.#input;
  }

  /** What is to be written, and what the platform holds then. Known for good once there is a plan. */
  get settled(): Settled {
    return this.#settled;
  }

  /** How snapshots call a record. */
  #nameOf(kind: string, row: number): string {
    const { catalogue, target } = this.input;
    const table = catalogue.table(kind);
    const goesByCode =
      kind === "variant" && !target.slots.some((slot) => slot.creates.length === 1 && slot.creates[0] === kind);
    return goesByCode ? (table.text("code", row) ?? "") : table.key(row);
  }

  #view(): AlreadyThere {
    const { onPlatform: held, ledger, catalogue, target, wishes } = this.input;
    const { changed, notMade } = this.settled;
    const isHeld = (kind: string, row: number) => held[kind]?.has(this.#nameOf(kind, row)) ?? false;
    const pictures = new Set<string>();
    const start = platformHolding(held, target, catalogue.kinds, () => undefined);
    for (const name of start.pictures) pictures.add(name);
    return {
      isBegun: true,
      hasPicture: (name) => pictures.has(name) || ledger.has("picture", name),
      isThere: (kind, row) => {
        // Kinds of which the export tells no records are made when rows name them.
        if (!held[kind] || (kind === "category" && !isOfRecords(target))) return true;
        return (
          isHeld(kind, row) ||
          ledger.has(kind, catalogue.table(kind).key(row)) ||
          notMade.has(originKey(kind, this.#nameOf(kind, row)))
        );
      },
      isAdded: (update, kind, row) => {
        const key = this.#nameOf(kind, row);
        if (!isHeld(kind, row))
          return ledger.has(kind, catalogue.table(kind).key(row), update) || wishes.only === "update";
        const own = changed.get(kind)?.get(key);
        return own === undefined || ![...own].some((field) => isOf(update, field));
      },
    };
  }

  /** Adds the changes to a plan of what is new, and leaves out what would change nothing. */
  async plan(given: Prepared): Promise<Prepared> {
    const prepared = this.#withoutFaulty(given);
    if (this.input.replaces) {
      const whole = planWhole(this.input, prepared, this.#keptCells());
      return { ...whole, plan: { ...whole.plan, steps: renumbered(whole.plan.steps) } };
    }
    const made = this.#changeSteps(prepared);
    const steps = withLatePictures(prepared.plan.steps, made, this.input.target);
    const look = steps.findIndex((step) => step.is === "look" || isLate(step, this.input.target));
    const before = made.some((step) => this.#namesUnknownIds(step)) ? [this.#collectStep()] : [];
    steps.splice(look < 0 ? steps.length : look, 0, ...before, ...made);
    // What leaves the shop comes first, so that nobody overlooks it.
    const first = steps.findIndex(({ is }) => is === "upload");
    steps.splice(first < 0 ? steps.length : first, 0, ...this.#literalSteps());
    const lists = neededLists(this.input.catalogue, this.input.target, isHeldBack(prepared.heldBack));
    if (lists.length > 0 && !steps.some(({ is }) => is === "lists"))
      steps.unshift(listsStep(this.input.target.name, lists, 0));
    steps.push(...this.#redirectSteps());
    steps.unshift(...this.#tasks);
    const cells = this.#keptCells();
    const withCells = steps.map((step): Step => (step.is === "upload" ? { ...step, cells } : step));
    const kept = await withoutIdleRows(this.start(), this.input, {
      ...prepared,
      plan: { ...prepared.plan, steps: withCells },
    });
    const isAny = kept.some(({ is }) => is === "upload");
    const numbered = renumbered(isAny ? kept : kept.filter(({ is }) => is === "collect"));
    const uploads = numbered.filter(({ is }) => is === "upload").length;
    const rollback = this.#rollback(numbered);
    return {
      ...prepared,
      rollback,
      plan: { ...prepared.plan, steps: numbered, cost: { ...prepared.plan.cost, uploads } },
    };
  }

  /**
   * What is held back and is there already stays as it is: it is not written, and what leads to it still does.
   * Only what is new and held back is as if it were not there.
   */
  #withoutFaulty(prepared: Prepared): Prepared {
    const { catalogue, target, onPlatform: held, replaces } = this.input;
    const { byKind } = prepared.heldBack;
    const isThere = (kind: string) => (row: number) => held[kind]?.has(this.#nameOf(kind, row)) ?? false;
    const isNew = (kind: string) => (row: number) => !isThere(kind)(row);
    const heldBack = {
      ...prepared.heldBack,
      byKind: new Map([...byKind].map(([kind, rows]) => [kind, new Set([...rows].filter(isNew(kind)))] as const)),
    };
    if (byKind.size > 0) {
      const intended = intendedByTarget(catalogue, target, heldBack);
      this.#input = { ...this.#input, intended, comparison: this.#input.compare(intended) };
    }
    const { intended, comparison } = this.input;
    const isFaulty = (kind: string, key: Key) => {
      const origin = intended.origins.get(originKey(kind, key));
      if (!origin) return false;
      return heldRows(prepared.heldBack, origin.table.name).has(origin.row);
    };
    // Where all is replaced, what is not written is deleted: what is there is written, faults or not.
    const records = comparison.records.filter(({ kind, key }) => replaces || !isFaulty(kind, key));
    this.#settled = this.#settle(records);
    return { ...prepared, heldBack };
  }

  #settle(records: readonly ComparedRecord[]): Settled {
    const { intended, onPlatform: held, wishes, replaces, target, catalogue } = this.input;
    const settled = settle(intended, held, records, wishes, laneKeys(target, catalogue.kinds));
    return {
      ...settled,
      after: replaces ? onlyIntended(settled.after, intended) : withoutEmptied(settled.after, this.input),
    };
  }

  /** The simulated platform as it is now. */
  start(): Shop | Registers {
    const { onPlatform: held, target, catalogue, ledger } = this.input;
    const shop = platformHolding(held, target, catalogue.kinds, (kind, key) => ledger.id(kind, key));
    for (const name of picturesNamed(catalogue)) if (ledger.has("picture", name)) shop.pictures.add(name);
    // What is listed there is not told; what is ours is, once it was uploaded.
    if (shop instanceof Registers)
      for (const { name, entries } of neededLists(catalogue, target, () => false)) shop.setUp(name, entries);
    return shop;
  }

  /** Steps for fields of records that are there, file by file: only the rows and columns that change. */
  #changeSteps({ plan, heldBack }: Prepared): UploadStep[] {
    const { catalogue, target, intended } = this.input;
    const isLeftOut = isHeldBack(heldBack);
    const isFor = recordsOfImports(catalogue, target);
    const updated = new Set(target.slots.flatMap(({ updates }) => updates));
    const files = new Set(target.slots.filter(({ mode }) => mode === "create").map(({ file }) => file));
    const steps: UploadStep[] = [];
    let count = filesOf(plan.steps.filter((step) => !isLate(step, target)));
    // Where products and variants share rows, each of the two has a file: then no row says more than what changes.
    const parts = [...files].flatMap(
      (name): { readonly name: string; readonly level: "parent" | "child" | undefined }[] =>
        playsRecords(entryOf(target.files, name).importer)
          ? [{ name, level: undefined }]
          : [
              { name, level: "parent" },
              { name, level: "child" },
            ],
    );
    for (const { name, level } of parts) {
      const file = entryOf(target.files, name);
      const headers = new Set<string>();
      const blocks = file.layouts.flatMap((layout, at): PlannedBlock[] => {
        const kind = writtenKind(layout, catalogue);
        const rows = new Set<number>();
        for (const carrying of carryingColumns(target, file, layout, catalogue.kinds)) {
          if (level !== undefined && carrying.column.scope.is !== level) continue;
          if ([...updated].some((update) => update.startsWith(`${carrying.kind}.`) && isOf(update, carrying.field)))
            continue;
          for (const [key, fields] of this.settled.changed.get(carrying.kind) ?? []) {
            if (!fields.has(carrying.field)) continue;
            const origin = intended.origins.get(originKey(carrying.kind, key));
            // Rows of a product that is new come with it.
            if (origin?.table.name === "variant" && this.#isNew(origin.table.parent(origin.row))) continue;
            const row = origin && this.#blockRow(kind, carrying, origin.table.name, origin.row);
            if (row === undefined || isLeftOut(kind, row) || !isFor(name, kind, row)) continue;
            rows.add(row);
            for (const header of withPartners(file, carrying.header)) headers.add(header);
          }
        }
        return rows.size === 0 ? [] : [{ layout: at, kind, records: [...rows].sort((a, b) => a - b) }];
      });
      if (blocks.length === 0) continue;
      const columns = this.#columnsOf(file, headers);
      const word = level === "child" ? `${name}-changes-of-variants` : `${name}-changes`;
      const mode = level === "parent" ? ("update" as const) : ("create" as const);
      const slot = { name: word, file: name, mode, creates: [], updates: [] };
      steps.push({
        number: 0,
        is: "upload",
        title: phrase("Upload the changes in {0}{1}", name, level === "child" ? ", variant by variant" : ""),
        why: phrase("Overwrites only what differs from what is on {0}: {1}.", target.name, [...headers].join(", ")),
        slot,
        files: splitByLimit(blocks, file.limits.products).map((one) => ({
          name: `${String(++count).padStart(2, "0")}-${word}.${endingOf(file)}`,
          blocks: one,
        })),
        columns,
        waiting: new Map(),
        places: blocks.map(({ kind, records }) => ({ kind, update: undefined, records })),
        after: [],
      });
    }
    return steps;
  }

  /** Rows for records that are no longer ours, or that have to let go of a code first. */
  #literalSteps(): UploadStep[] {
    const { input, settled } = this;
    const steps = [
      literalStep(input, releaseSettings(input, settled.after), {
        name: "released",
        title: phrase("Release codes that move to other records"),
        why: phrase("{0} allows each code only once. The record that has it now is retired first.", input.target.name),
      }),
      literalStep(input, goneSettings(input), {
        name: "gone",
        title:
          input.wishes.gone === "hide"
            ? phrase("Hide records that are no longer in your sources")
            : phrase("Retire records that are no longer in your sources"),
        why: phrase("They were delivered earlier and are no longer in your sources."),
      }),
    ].flat();
    for (const { settings } of steps)
      for (const { kind, key, fields } of settings) settled.after[kind] = withFields(settled.after[kind]!, key, fields);
    return steps.map(({ step }) => step);
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

  /** The same rows as the changes, saying what the platform holds before them. */
  #rollback(steps: readonly Step[]): UploadStep[] {
    const { catalogue, target, intended, onPlatform: held, ledger } = this.input;
    const idOf = (kind: string, key: Key) => ledger.id(kind, key);
    return steps.flatMap((step): UploadStep[] => {
      if (step.is !== "upload" || !step.slot.name.includes("-changes")) return [];
      const file = entryOf(target.files, step.slot.file);
      const cells = new Map<string, Map<string, string>>();
      for (const layout of file.layouts)
        for (const carrying of carryingColumns(target, file, layout, catalogue.kinds))
          for (const key of this.settled.changed.get(carrying.kind)?.keys() ?? []) {
            const origin = intended.origins.get(originKey(carrying.kind, key));
            const cell = origin && cellOf(carrying, held[carrying.kind]?.get(key)?.get(carrying.field), idOf);
            if (cell === undefined || carrying.kind === "category") continue;
            const name = `${present(origin).table.name} ${present(origin).row}`;
            cells.set(
              name,
              (cells.get(name) ?? new Map<string, string>()).set(`${file.name} ${carrying.header}`, cell),
            );
          }
      return [{ ...step, cells, files: step.files.map((one) => ({ ...one, name: `rollback-${one.name}` })) }];
    });
  }

  /** Whether rows name records by ids that are not known yet: a blank cell would clear what is there. */
  #namesUnknownIds({ slot, files, columns }: UploadStep): boolean {
    const { catalogue, target } = this.input;
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

  #isNew(product: Row<"product">): boolean {
    return !this.input.onPlatform.product.has(this.#nameOf("product", product));
  }

  /** What operations ask for; where codes move by themselves, nothing. */
  get #tasks(): Step[] {
    const { target, tasks } = this.input;
    const moves =
      !isOfRecords(target) &&
      [...target.files.values()].some((file) => groupedRules(file)["code of another product"] === "moves");
    return moves ? [] : tasks.map((task) => ({ number: 0, is: "do", ...task }));
  }

  /** The record whose rows show a field: a variant's product; for a category that only products name, one that stands in it. */
  #blockRow(kind: string, carrying: CarryingColumn, table: string, row: number): number | undefined {
    const { catalogue, intended } = this.input;
    if (table === kind) return row;
    if (catalogue.kinds.get(table).of === kind) return catalogue.table(table).parent(row);
    if (carrying.kind !== "category") return undefined;
    const path = [...intended.origins]
      .find(([, origin]) => origin.table.name === table && origin.row === row)?.[0]
      .slice("category ".length);
    const within = [...intended.snapshot.product].find(([, record]) =>
      ((record.get("categories") ?? []) as readonly (readonly string[])[]).some((one) =>
        `${one.join(" / ")} / `.startsWith(`${path} / `),
      ),
    );
    return within && intended.origins.get(originKey("product", within[0]))?.row;
  }

  #columnsOf(file: TargetFile, headers: ReadonlySet<string>): ReadonlySet<string> {
    const { layout, importer } = file;
    const isBelow = layout.columns.some(({ header, scope }) => headers.has(header) && scope.is !== "parent");
    const child = !playsRecords(importer) && isBelow ? [importer["child by"]] : [];
    return new Set([...identityHeaders(file), ...child, ...headers]);
  }

  /** Cells that have to say what is there: fields that are left alone, in rows that are written for others. */
  #keptCells(): NonNullable<UploadStep["cells"]> {
    const { catalogue, target, intended, ledger } = this.input;
    const cells = new Map<string, Map<string, string>>();
    for (const file of target.files.values())
      for (const layout of file.layouts)
        for (const carrying of carryingColumns(target, file, layout, catalogue.kinds))
          for (const [name, fields] of this.settled.kept) {
            if (!name.startsWith(`${carrying.kind} `) || !fields.has(carrying.field)) continue;
            const origin = intended.origins.get(name);
            if (!origin || carrying.kind === "category") continue;
            const isLeft = file.rules.get(carrying.header)?.blank === "leave";
            const idOf = (kind: string, key: Key) => ledger.id(kind, key);
            const cell = isLeft ? "" : cellOf(carrying, fields.get(carrying.field), idOf);
            if (cell === undefined) continue;
            const key = `${origin.table.name} ${origin.row}`;
            cells.set(key, (cells.get(key) ?? new Map<string, string>()).set(`${file.name} ${carrying.header}`, cell));
          }
    return cells;
  }

  /** What cannot be done, said. */
  report(findings: Findings): void {
    const { target, comparison, replaces } = this.input;
    if (replaces)
      for (const { kind, key, state } of comparison.records)
        if (
          (kind === "product" || kind === "variant") &&
          (state === "only on the platform" || state === "no longer in your sources")
        )
          findings.add(finding("change/would-delete", { kind, key, target: target.name }));
    const stays = comparison.stays;
    if (stays.length > 0)
      findings.add(
        finding("change/cannot-remove", { count: stays.length, examples: stays.slice(0, 3), target: target.name }),
      );
  }
}

/** What stays when only what is intended does. */
function onlyIntended(after: Settled["after"], { snapshot }: Intended): Settled["after"] {
  const kept = Object.fromEntries(
    Object.entries(after).map(([kind, records]) => [
      kind,
      new Map([...records].filter(([key]) => snapshot[kind]?.has(key))),
    ]),
  );
  return { ...after, ...kept };
}

function splitByLimit(blocks: readonly PlannedBlock[], most = Infinity): PlannedBlock[][] {
  const [main, ...others] = blocks;
  if (present(main).records.length <= most) return [[...blocks]];
  const parts: PlannedBlock[][] = [];
  for (let at = 0; at < present(main).records.length; at += most)
    parts.push([{ ...present(main), records: present(main).records.slice(at, at + most) }]);
  firstOf(parts).push(...others);
  return parts;
}

function renumbered(steps: readonly Step[]): Step[] {
  const numbers = new Map(steps.map((step, at) => [step.number, at + 1]));
  return steps.map((step, at): Step => {
    if (step.is !== "upload") return { ...step, number: at + 1 };
    const after = step.after.flatMap((one) => {
      const number = numbers.get(one.step);
      return number === undefined ? [] : [{ ...one, step: number }];
    });
    return { ...step, number: at + 1, after };
  });
}

/** Pictures that are uploaded after the files. */
const isLate = ({ is }: Step, target: Target): boolean => is === "pictures" && takesPicturesLast(target);

/** How many files of rows and archives of pictures the steps have. */
const filesOf = (steps: readonly Step[]): number =>
  steps.reduce((sum, step) => sum + (step.is === "upload" ? step.files.length : Number(step.is === "pictures")), 0);

/** Archives of pictures that come after changes are numbered behind them. */
function withLatePictures(steps: readonly Step[], made: readonly Step[], target: Target): Step[] {
  const number = String(filesOf([...steps, ...made])).padStart(2, "0");
  return steps.map((step) =>
    step.is === "pictures" && isLate(step, target) ? { ...step, name: step.name.replace(/^\d+/, number) } : step,
  );
}
