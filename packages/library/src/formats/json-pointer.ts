/** RFC 6901: JSON Pointers. */

/** The value that a pointer names; undefined where there is none. */
export function valueAt(document: unknown, pointer: string): unknown {
  let value = document;
  for (const step of pointerSteps(pointer)) {
    if (typeof value !== "object" || value === null || !Object.hasOwn(value, step)) return undefined;
    value = (value as Record<string, unknown>)[step];
  }
  return value;
}

export function pointerSteps(pointer: string): string[] {
  return pointer === ""
    ? []
    : pointer
        .slice(1)
        .split("/")
        .map((step) => step.replaceAll("~1", "/").replaceAll("~0", "~"));
}

/** Puts a value at a pointer's steps, making the objects on the way. Keys like `__proto__` are keys like others. */
export function setAt(document: Record<string, unknown>, steps: readonly string[], value: unknown): void {
  let at = document;
  steps.forEach((step, index) => {
    const isLast = index === steps.length - 1;
    const next = isLast ? value : Object.hasOwn(at, step) ? at[step] : {};
    Object.defineProperty(at, step, { value: next, enumerable: true, configurable: true, writable: true });
    if (!isLast) at = next as Record<string, unknown>;
  });
}
