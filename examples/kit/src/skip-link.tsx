/** The first stop of the tab key: past the bar, to the content. */

export function SkipLink({ to, children }: { readonly to: string; readonly children: string }) {
  return (
    <a
      className="skip"
      href={`#${to}`}
      onClick={(event) => {
        // Behind # stands the place where one is, not an element: focus is moved by hand.
        event.preventDefault();
        document.getElementById(to)?.focus();
      }}
    >
      {children}
    </a>
  );
}
