/**
 * Rehearsing: an upload folder played through the simulated platform, and what comes of it compared with what is intended.
 *
 * In: the catalogue, the target, the plan, the files' bytes. Out: a verdict.
 */

import { success } from "../findings/result.js";
import type { Result } from "../findings/finding.js";
import { entryOf } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { isHeldBack, type HeldBack } from "../build/hold-back.js";
import { stepsNow, type Plan } from "../plan/plan.js";
import type { FilesPort } from "../ports.js";
import type { Target } from "../target/target.js";
import type { Outcome, RehearsedFile, TellPlayed } from "../rehearse/outcome.js";
import type { Playable } from "../rehearse/playable.js";
import { SimulatedPlatform } from "../rehearse/platform/platform.js";
import type { ArrivedCells } from "./cells.js";
import { unfoldSingles } from "../compare/unfold.js";
import type { HeldCatalogue } from "../rehearse/platform/held-catalogue.js";
import { compareHeld, type LocatedDifference } from "./compare-held.js";
import { hiddenIn } from "./hidden.js";
import type { Hidden } from "../rehearse/visible.js";

/** What the simulated platform made of an upload. */
export interface Verdict {
  readonly files: readonly RehearsedFile[];
  readonly counts: Readonly<Record<Outcome, number>>;
  readonly differences: readonly LocatedDifference[];
  /** The filled cells of what is intended, where nothing was on the platform before. */
  readonly cells: ArrivedCells | undefined;
  readonly hidden: readonly Hidden[];
  /** What is on the platform in the end. */
  readonly held: HeldCatalogue;
  /** True when every row is taken, nothing differs, and no file is refused. */
  readonly rebuilt: boolean;
}

/** What a platform is to have in the end, and which of its records are not to be there. */
export interface RehearsedGoal {
  readonly catalogue: TargetView;
  readonly isOut: (kind: string, row: number) => boolean;
  /** What of it is taken out on purpose: no cell of it is to arrive; nothing, if left out. */
  readonly isGone?: (kind: string, row: number) => boolean;
}

export interface RehearseInput {
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly plan: Plan;
  readonly heldBack: HeldBack;
  /** The upload folder. */
  readonly files: FilesPort;
  /** The platform, with what is on it before; it is changed. An empty one, if left out. */
  readonly platform?: Playable | undefined;
  /** What it is to have in the end, where that is not only what is intended. */
  readonly goal?: RehearsedGoal | undefined;
  /** Receives each step that was played. */
  readonly played?: TellPlayed | undefined;
}

/** Plays an upload folder; fails where a file of the plan is not there. */
export async function playUpload({
  catalogue,
  target,
  plan,
  heldBack,
  files,
  platform = new SimulatedPlatform(target, catalogue.kinds),
  goal,
  played: tell,
}: RehearseInput): Promise<Result<Verdict>> {
  const played: RehearsedFile[] = [];
  for (const step of stepsNow(plan)) {
    const before = played.length;
    if (step.is === "lists") for (const { name, entries } of step.lists) platform.setUp(name, entries);
    if (step.is === "pictures") platform.addPictures(step.files);
    if (step.is === "detach") platform.detach(step);
    if (step.is === "upload")
      for (const { name } of step.files) {
        const opened = await files.read(name);
        if (!opened.ok) return opened;
        const file = entryOf(target.files, step.slot.file);
        played.push(await platform.play(file, name, opened.value, step.slot.mode));
      }
    tell?.({ round: 0, step: step.number, title: step.title, files: played.slice(before), held: platform.counts() });
  }
  platform.end();
  return success(judge({ catalogue, target, heldBack, files: played, platform, goal }));
}

/** What a verdict is made of. */
interface Judged {
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly heldBack: HeldBack;
  readonly files: readonly RehearsedFile[];
  readonly platform: Playable;
  readonly goal: RehearsedGoal | undefined;
}

export function judge({ catalogue, target, heldBack, files, platform, goal }: Judged): Verdict {
  const counts: Record<Outcome, number> = { created: 0, updated: 0, unchanged: 0, deleted: 0, refused: 0 };
  for (const file of files) for (const row of file.rows) counts[row.outcome]++;
  const wanted = goal?.catalogue ?? catalogue;
  const held = platform.held(wanted);
  // What is compared with a goal stands as the platform keeps it.
  const form = goal ? unfoldHeld(held, target) : held;
  const compared = compareHeld(wanted, target, form, goal?.isOut ?? isHeldBack(heldBack), goal?.isGone);
  // Where all is held back, nothing was rebuilt.
  const isEmpty = files.length === 0 && heldBack.byKind.size > 0 && !goal;
  const rebuilt =
    !isEmpty &&
    compared.differences.length === 0 &&
    counts.refused === 0 &&
    files.every((file) => file.refused === undefined);
  return {
    files,
    counts,
    differences: compared.differences,
    cells: compared.cells,
    hidden: hiddenIn(held.catalogue, target),
    held,
    rebuilt,
  };
}

/** What is on a platform, without singles. */
function unfoldHeld({ catalogue, isOfPlatform }: HeldCatalogue, target: Target): HeldCatalogue {
  const { catalogue: unfolded, before } = unfoldSingles(catalogue, target);
  return {
    catalogue: unfolded,
    isOfPlatform: (table, field, row) => {
      const [of, at] = before(table, row);
      return isOfPlatform(of, field, at);
    },
  };
}
