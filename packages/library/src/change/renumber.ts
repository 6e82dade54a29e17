/** The numbers of steps and of their files. */

import type { Step, UploadStep } from "../plan/plan.js";

/** Numbers steps and their files anew, in their order. */
export function renumbered(steps: readonly Step[]): Step[] {
  const numbers = new Map(steps.map((step, at) => [step.number, at + 1]));
  let count = 0;
  const names = new Map<string, string>();
  const numberedName = (name: string): string => {
    const made = `${String(++count).padStart(2, "0")}-${name.replace(/^\d+-/, "")}`;
    names.set(name, made);
    return made;
  };
  const made = steps.map((step, at): Step => {
    const number = at + 1;
    if (step.is === "pictures") return { ...step, number, name: numberedName(step.name) };
    if (step.is !== "upload") return { ...step, number };
    const files = step.files.map((file) => ({ ...file, name: numberedName(file.name) }));
    const after = step.after.flatMap((one) => {
      const of = numbers.get(one.step);
      return of === undefined || one.step === 0 ? [] : [{ ...one, step: of }];
    });
    return { ...step, number, files, after };
  });
  return made.map((step) =>
    step.is === "test" ? { ...step, files: step.files.flatMap((name) => names.get(name) ?? []) } : step,
  );
}

/** Uploads that set others back: their files are told from the others by their names. */
export const asRollback = (steps: readonly UploadStep[]): UploadStep[] =>
  renumbered(steps).flatMap((step) =>
    step.is === "upload"
      ? [{ ...step, files: step.files.map((one) => ({ ...one, name: `rollback-${one.name}` })) }]
      : [],
  );
