/** The same while pages are being developed. */

import { Fragment, jsx } from "./jsx-runtime.js";

export { Fragment };
export type { JSX } from "./jsx-runtime.js";

export const jsxDEV: typeof jsx = (type, props, key) => jsx(type, props, key);
