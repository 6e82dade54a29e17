/** Which fields the files of an upload hold. */

import { entryOf, firstOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Coverage } from "../compare/coverage.js";
import { layoutsOf } from "../compare/held-form.js";
import { coverageOf } from "../compare/told.js";
import { byLanguage, type Layout } from "../layout/layout.js";
import type { Header } from "../nominal.js";
import type { UploadStep } from "../plan/plan.js";
import { Places } from "../target/places.js";
import type { Target } from "../target/target.js";

/** What a step's files hold of a record: the columns that they have, but for cells that wait for what is not there yet. */
export class WrittenFields {
  readonly #known = new Map<string, { readonly told: Coverage; readonly places: Places }>();

  constructor(
    readonly own: ResolvedCatalogue,
    readonly target: Target,
    readonly step: UploadStep,
  ) {}

  of(kind: string, row: number): { readonly told: Coverage; readonly places: Places } {
    const { step } = this;
    const waiting = kind === "product" ? [...(step.waiting.get(row) ?? [])] : [];
    const name = waiting.sort().join("\u0000");
    let known = this.#known.get(name);
    if (!known) {
      const target = this.#targetOf((header) => (step.columns?.has(header) ?? true) && !waiting.includes(header));
      known = { told: coverageOf(layoutsOf(target), this.own.kinds), places: new Places(this.own, target) };
      this.#known.set(name, known);
    }
    return known;
  }

  /** The target with no more than some columns of the step's file. */
  #targetOf(isIn: (header: Header) => boolean): Target {
    const file = entryOf(this.target.files, this.step.slot.file);
    const layouts = file.layouts
      .flatMap((layout) => byLanguage(layout).map(([, own]) => own))
      .map((layout): Layout => ({ ...layout, columns: layout.columns.filter(({ header }) => isIn(header)) }));
    const files = new Map([[file.name, { ...file, layouts, layout: firstOf(layouts) }]]);
    // What other files are for does not count here.
    return { ...this.target, files, slots: this.target.slots.filter((slot) => slot.file === file.name) };
  }
}
