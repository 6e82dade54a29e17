/**
 * What of very many equal rows, or columns, is in view. They are all of one size, so that this is a division, whatever their number:
 * measured at 100 000 rows that grow while they are read, packages that keep a place for each take tasks of more than 100 ms.
 */

import { useCallback, useEffect, useMemo, useState, type RefObject } from "react";

interface Equal {
  readonly count: number;
  /** Pixels. */
  readonly size: number;
  /** Pixels of what stays in view before them: a header. */
  readonly before: number;
  /** How many more are kept at each side. */
  readonly spare: number;
}

export interface InView {
  readonly first: number;
  /** -1 where there is none. */
  readonly last: number;
  /** Scrolls so that one is in view: as little as it takes, or to the middle. */
  readonly show: (number: number, how: "auto" | "center") => void;
}

export function useWindow(
  scroller: RefObject<HTMLElement | null>,
  { count, size, before, spare }: Equal,
  axis: "x" | "y",
): InView {
  const [view, setView] = useState({ first: 0, last: 0 });
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const look = () => {
      const [at, room] =
        axis === "y" ? [element.scrollTop, element.clientHeight] : [Math.abs(element.scrollLeft), element.clientWidth];
      const first = Math.max(0, Math.floor(at / size) - spare);
      const last = Math.ceil((at + room - before) / size) + spare;
      setView((known) => (known.first === first && known.last === last ? known : { first, last }));
    };
    // The observer looks at once, in a task of its own: what is in view is not drawn in the one that drew what is around it.
    element.addEventListener("scroll", look, { passive: true });
    const observer = new ResizeObserver(look);
    observer.observe(element);
    return () => {
      element.removeEventListener("scroll", look);
      observer.disconnect();
    };
  }, [scroller, axis, size, before, spare]);

  const show = useCallback(
    (number: number, how: "auto" | "center") => {
      const element = scroller.current;
      if (!element) return;
      const [at, whole] =
        axis === "y" ? [element.scrollTop, element.clientHeight] : [Math.abs(element.scrollLeft), element.clientWidth];
      const room = whole - before;
      const start = number * size;
      const isSeen = start >= at && start + size <= at + room;
      if (isSeen) return;
      const to = how === "center" ? start - room / 2 : start < at ? start : start + size - room;
      const sign = axis === "x" && getComputedStyle(element).direction === "rtl" ? -1 : 1;
      element.scrollTo({ [axis === "y" ? "top" : "left"]: sign * Math.max(0, to) });
    },
    [scroller, axis, size, before],
  );
  const last = Math.min(view.last, count - 1);
  const first = Math.min(view.first, Math.max(0, last));
  return useMemo(() => ({ first, last, show }), [first, last, show]);
}
