/** Our own few signs, drawn on 16 × 16. */

const paths = {
  moon: "M12.5 10.2A5.5 5.5 0 0 1 5.8 3.5a5.5 5.5 0 1 0 6.7 6.7Z",
  sun: "M8 5a3 3 0 1 0 0 6 3 3 0 0 0 0-6ZM8 1v2M8 13v2M1 8h2M13 8h2M3 3l1.4 1.4M11.6 11.6 13 13M13 3l-1.4 1.4M4.4 11.6 3 13",
  undo: "M6 3 2.5 6.5 6 10M3 6.5h6a4 4 0 0 1 0 8H7",
  redo: "m10 3 3.5 3.5L10 10M13 6.5H7a4 4 0 0 0 0 8h2",
  save: "M8 2v8M4.5 7 8 10.5 11.5 7M2.5 13.5h11",
  error: "M8 1.5 14.5 8 8 14.5 1.5 8ZM8 5v3.5M8 10.6v.4",
  warning: "M8 2 14.5 13.5h-13ZM8 6.5v3M8 11.3v.3",
  note: "M2.5 2.5h11v8H8l-3.5 3v-3h-2Z",
  good: "m3 8.5 3.5 3.5L13 4.5",
  go: "M3 8h9M8.5 4.5 12 8l-3.5 3.5",
  back: "M13 8H4M7.5 4.5 4 8l3.5 3.5",
  open: "M2 4.5h4l1.5 2H14v7H2Z",
  copy: "M5.5 5.5h8v8h-8ZM10.5 5.5v-3h-8v8h3",
  play: "M5 3.5v9l7-4.5Z",
  pause: "M5 3.5v9M11 3.5v9",
  down: "m4 6.5 4 4 4-4",
  closed: "m6.5 4 4 4-4 4",
  up: "m4 10 4-4 4 4",
  search: "M7 2.5a4.5 4.5 0 1 0 0 9 4.5 4.5 0 0 0 0-9ZM10.5 10.5 14 14",
} as const;
export type IconName = keyof typeof paths;

export const Icon = ({ name, size = 16 }: { readonly name: IconName; readonly size?: number }) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 16 16"
    fill="none"
    stroke="currentColor"
    strokeWidth="1.6"
    strokeLinecap="round"
    strokeLinejoin="round"
    aria-hidden="true"
    focusable="false"
    style={{ flex: "none" }}
  >
    <path d={paths[name]} />
  </svg>
);

/** Three tiers under a twist of peel. */
export const Mark = () => (
  <svg width="28" height="28" viewBox="0 0 28 28" aria-hidden="true" focusable="false" style={{ flex: "none" }}>
    <path d="M4 23.5h20M6.5 18.5h15M9 13.5h10" stroke="var(--pine)" strokeWidth="3" strokeLinecap="round" />
    <path
      d="M10 8.5c0-3 2.4-5 5-5s4 2 3.4 3.9c-.6 1.8-3.2 1.6-3.2-.1"
      fill="none"
      stroke="var(--zest)"
      strokeWidth="2.6"
      strokeLinecap="round"
    />
  </svg>
);
