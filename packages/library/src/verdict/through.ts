/**
 * Rehearsing all the way through on a platform that gives out ids: files are written up to where ids are needed, played, the ids that
 * the simulated platform gave are collected, and so on until nothing is left to write.
 */

import { Findings, type Result } from "../findings/finding.js";
import { entryOf } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { stepsNow, type Plan, type Step } from "../plan/plan.js";
import { isHeldBack, type HeldBack } from "../build/hold-back.js";
import { bytesBy, measureRows } from "../build/prepare.js";
import { linesIn } from "../build/lines-elsewhere.js";
import type { LineElsewhere } from "../layout/write/context.js";
import { encodeFile, fileRows } from "../build/write-file.js";
import { Ledger, partsOf } from "../ledger/ledger.js";
import { thereBy, withIds } from "../ledger/there.js";
import { planImport } from "../plan/plan-import.js";
import { recordsThere } from "../target/records-there.js";
import type { Target } from "../target/target.js";
import type { RehearsedFile, TellPlayed } from "../rehearse/outcome.js";
import { judge, type RehearsedGoal, type Verdict } from "./rehearse.js";
import type { Playable } from "../rehearse/playable.js";
import { SimulatedPlatform } from "../rehearse/platform/platform.js";
import { putRecords } from "../rehearse/platform/put-records.js";
import { asHeld } from "../compare/held-form.js";
import { idsGiven } from "./ids-given.js";
import { pushAll } from "../lists.js";

/** What a rehearsal of several rounds needs. */
export interface ThroughInput {
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly heldBack: HeldBack;
  readonly pictureNames: readonly string[];
  /** What the real platform is known to hold: its ids are used, so that files are the same. It is not changed. */
  readonly ledger?: Ledger;
  /** What is on the platform before; it is changed. Empty if left out. */
  readonly platform?: Playable | undefined;
  /** The plan of a round, where it is not the usual one. */
  readonly planWith?: ((ledger: Ledger, catalogue: TargetView) => Promise<Result<Plan>>) | undefined;
  readonly goal?: RehearsedGoal | undefined;
  /** Receives each step that was played. */
  readonly played?: TellPlayed | undefined;
}

/** So many times ids are collected at most; a plan needs a few. */
const maxRounds = 60;

/** What is on the platform before a first import: nothing, or records that the sources know ids of, or that the project says it has. */
export function platformAtFirst(catalogue: TargetView, target: Target, heldBack: HeldBack, real: Ledger): Playable {
  const assumed = real.ofAssumed();
  const platform = new SimulatedPlatform(
    target,
    catalogue.kinds,
    (kind, key, count) => real.id(kind, key) ?? `${9_000_000 + count}`,
  );
  const had = recordsThere(catalogue, target);
  if (assumed.isEmpty && had.size === 0) return platform;
  const isLeftOut = isHeldBack(heldBack);
  const isThere = (kind: string, row: number) =>
    had.has(`${kind} ${row}`) || (assumed.has(kind, catalogue.table(kind).key(row)) && !isLeftOut(kind, row));
  putRecords(platform, asHeld(withIds(catalogue, real), target, isLeftOut), isThere);
  return platform;
}

/** Rehearses an import of several rounds: after each, the ids that the platform would give out are collected, and the next is planned. */
export async function rehearseThrough({
  catalogue: given,
  target,
  heldBack,
  pictureNames,
  ledger: real = new Ledger(),
  platform = platformAtFirst(given, target, heldBack, real),
  planWith,
  goal,
  played: tell,
}: ThroughInput): Promise<Verdict> {
  const ledger = real.ofAssumed();
  const isLeftOut = isHeldBack(heldBack);
  const files: RehearsedFile[] = [];
  // Steps are numbered as in the plan of the whole, in which ids are collected between the rounds.
  let before = 0;
  let catalogue = given;
  learn([]);
  for (let round = 0; round < maxRounds; round++) {
    catalogue = withIds(given, ledger);
    const options = {
      isLeftOut,
      ...bytesBy(measureRows(catalogue, target)),
      pictures: pictureNames,
      there: thereBy(ledger, catalogue),
    };
    const planned = planWith ? await planWith(ledger, catalogue) : planImport(catalogue, target, options);
    if (!planned.ok) break;
    const plan = planned.value;
    const now = stepsNow(plan);
    const lineElsewhere = linesIn(catalogue, target, now, isLeftOut);
    const whole = new Set<Step>();
    for (const step of now) {
      const own = await playStep(step, lineElsewhere);
      pushAll(files, own);
      if (own.every(isTaken)) whole.add(step);
      tell?.({ round, step: before + step.number, title: step.title, files: own, held: platform.counts() });
    }
    const collect = plan.steps[now.length];
    if (collect) {
      tell?.({
        round,
        step: before + collect.number,
        title: collect.title,
        files: [],
        held: platform.counts(),
      });
      before += collect.number;
    }
    ledger.forgetAdded();
    const isNews = learn(now);
    for (const step of whole) confirmMade(step);
    // Where rows are refused again and again nothing new is there: it goes no further.
    if (now.length === plan.steps.length || !isNews) break;
  }
  platform.end();
  return judge({ catalogue: withIds(given, real), target, heldBack, files, platform, goal });

  async function playStep(step: Step, lineElsewhere: LineElsewhere): Promise<RehearsedFile[]> {
    if (step.is === "lists") for (const { name, entries } of step.lists) platform.setUp(name, entries);
    if (step.is === "pictures") platform.addPictures(step.files);
    if (step.is === "detach") platform.detach(step);
    if (step.is !== "upload") return [];
    const file = entryOf(target.files, step.slot.file);
    const played: RehearsedFile[] = [];
    for (const { name, blocks } of step.files) {
      const rows = fileRows(catalogue, file, { blocks, step, isLeftOut, lineElsewhere }, new Findings(0));
      const chunks = await encodeFile(step.from?.catalogue ?? catalogue, file, rows, new Findings(0));
      async function* bytes() {
        yield* chunks;
      }
      played.push(await platform.play(file, name, bytes(), step.slot.mode));
    }
    return played;
  }

  /** What the platform has taken is there, with its id; what was to be added is not tried again. @returns whether any of it is new. */
  function learn(now: readonly Step[]): boolean {
    for (const { kind, key, id } of idsGiven(catalogue, target, platform, isLeftOut))
      ledger.add({ kind, key, id, state: "confirmed", run: "rehearsal" });
    for (const step of now) {
      if (step.is === "pictures")
        for (const key of step.files) ledger.add({ kind: "picture", key, state: "confirmed", run: "rehearsal" });
      if (step.is !== "upload") continue;
      for (const { kind, update, records } of step.places) {
        const table = catalogue.table(kind);
        if (update === undefined) continue;
        for (const row of records)
          ledger.add({ kind, key: table.key(row), ...partsOf(update), state: "confirmed", run: "rehearsal" });
      }
    }
    return ledger.addedCount > 0;
  }

  /** Where no row was refused, all that the step makes is there: also what has no id of its own, such as the axes of a product. */
  function confirmMade(step: Step): void {
    for (const { kind, update, records } of step.is === "upload" ? step.places : [])
      for (const row of update === undefined ? records : [])
        ledger.add({ kind, key: catalogue.table(kind).key(row), state: "confirmed", run: "rehearsal" });
  }
}

const isTaken = ({ refused, rows }: RehearsedFile): boolean =>
  refused === undefined && rows.every(({ outcome }) => outcome !== "refused");
