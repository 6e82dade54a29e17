/** Values of JSON that no path reads. */

import { pointerSteps, valueAt } from "./json-pointer.js";
import { JsonNumber } from "./json-read.js";
import { byLevels, type PathRead, type UnreadFinder, type UnreadValue } from "./unread.js";

/** By object or array: names of what is read of it, with all that is in there. */
type Marked = Map<object, Set<string>>;

/** @param ignored pointers from the block's element; all that is in there is passed over. */
export function unreadJson(
  reads: readonly PathRead[],
  ignored: readonly string[],
  elementsOf: (path: string) => (node: unknown) => readonly unknown[],
): UnreadFinder<unknown> {
  const groups = byLevels(reads);
  return {
    within(root) {
      const marked: Marked = new Map();
      /** Elements of arrays that paths lead through. */
      const passed = new Set<object>();
      for (const { levels, paths } of groups) {
        let elements: readonly unknown[] = [root];
        for (const level of levels) {
          for (const one of elements) {
            const container = valueAt(one, level);
            if (!isObject(container)) mark(one, level, marked);
            else if (Array.isArray(container)) {
              passed.add(container);
              if (!container.every(isObject)) mark(one, level, marked);
            }
          }
          elements = elements.flatMap((one) => elementsOf(level)(one));
        }
        for (const element of elements) for (const path of paths) mark(element, path, marked);
      }
      for (const path of ignored) markIgnored(root, pointerSteps(path), marked);
      return unreadBelow(root, marked, passed);
    },
    around: () => [],
  };
}

const isObject = (value: unknown): value is object =>
  typeof value === "object" && value !== null && !(value instanceof JsonNumber);

function namesOf(holder: object, marked: Marked): Set<string> {
  const names = marked.get(holder) ?? new Set<string>();
  marked.set(holder, names);
  return names;
}

function mark(node: unknown, pointer: string, marked: Marked): void {
  const steps = pointerSteps(pointer);
  const last = steps[steps.length - 1];
  const holder = last === undefined ? node : valueAt(node, pointer.slice(0, pointer.lastIndexOf("/")));
  if (!isObject(holder)) return;
  const names = namesOf(holder, marked);
  if (last !== undefined) names.add(last);
  else for (const name of Object.keys(holder)) names.add(name);
}

/** In each element of the arrays on the way: as paths are listed. */
function markIgnored(node: unknown, [step, ...further]: readonly string[], marked: Marked): void {
  if (!isObject(node) || step === undefined) return;
  if (Array.isArray(node) && !Object.hasOwn(node, step))
    for (const item of node as unknown[]) markIgnored(item, [step, ...further], marked);
  else if (further.length === 0) namesOf(node, marked).add(step);
  else if (Object.hasOwn(node, step)) markIgnored((node as Record<string, unknown>)[step], further, marked);
}

function unreadBelow(root: unknown, marked: Marked, passed: ReadonlySet<object>): UnreadValue[] {
  const found: UnreadValue[] = [];
  const waiting: { readonly value: unknown; readonly path: string }[] = [{ value: root, path: "" }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { value, path } = next;
    if (!isObject(value)) {
      if (path !== "" && value !== null && value !== "") found.push({ path });
      continue;
    }
    const names = marked.get(value);
    const isList = Array.isArray(value);
    if (isList && !passed.has(value) && !names) {
      if (value.length > 0) found.push({ path });
      continue;
    }
    for (const [name, inner] of Object.entries(value)) {
      if (names?.has(name)) continue;
      const step = name.replaceAll("~", "~0").replaceAll("/", "~1");
      waiting.push({ value: inner, path: isList && passed.has(value) ? path : `${path}/${step}` });
    }
  }
  return found;
}
