/**
 * The JSX of all pages: characters of a catalogue that could make a text look like another are shown by their numbers, wherever a page puts
 * text. What is typed in (`value`) stays as it is.
 */

import { Fragment, jsx as make, jsxs as makeSeveral } from "react/jsx-runtime";
import { visibleText } from "zest-tier";

export { Fragment };
export type { JSX } from "react/jsx-runtime";

type Make = typeof make;
type Props = Readonly<Record<string, unknown>>;

/** What is shown or read aloud. */
const shownProps = ["children", "title", "alt", "label", "description", "placeholder", "aria-label"];

function visible(value: unknown): unknown {
  if (typeof value === "string") return visibleText(value);
  return Array.isArray(value) ? (value as unknown[]).map(visible) : value;
}

function withVisible(props: unknown): unknown {
  let shown: Record<string, unknown> | undefined;
  for (const name of shownProps) {
    const value = (props as Props)[name];
    if (typeof value !== "string" && !Array.isArray(value)) continue;
    const now = visible(value);
    if (now !== value) (shown ??= { ...(props as Props) })[name] = now;
  }
  return shown ?? props;
}

export const jsx: Make = (type, props, key) => make(type, withVisible(props), key);
export const jsxs: Make = (type, props, key) => makeSeveral(type, withVisible(props), key);
