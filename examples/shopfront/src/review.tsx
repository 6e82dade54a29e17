/** The reviewer's view: what was meant beside what is held, for the whole shop in a line, for a product field by field. */

import { Icon } from "@zest-tier/kit";
import { useMemo } from "react";
import type { Open } from "./app.js";
import { compareAll, compareRecord, type RecordPair } from "./compare.js";
import type { Product, Version } from "./shop.js";
import { useWords } from "./words/words.js";

export function ReviewLine({ open }: { readonly open: Open }) {
  const words = useWords();
  const { fields, differing } = useMemo(() => compareAll(open.meant, open.held), [open.meant, open.held]);
  const first = differing.map(({ key }) => open.shop.productOf(key)).find((product) => product !== undefined);
  const some = [...open.shop.products.values()][0];
  const next = differing.length > 0 ? first : some;
  return (
    <p className={differing.length === 0 ? "review-line good" : "review-line bad"} role="status">
      <b>{differing.length === 0 ? words.allSame(fields) : words.someDiffer(differing.length)}</b>
      {next && (
        <span>
          {words.next}:{" "}
          <a href={open.address(["product", next.key])}>{differing.length > 0 ? words.nextLook : words.nextBrowse}</a>
        </span>
      )}
    </p>
  );
}

/** Meant beside held, field by field, for the product and the version that is chosen. */
export function Review({
  open,
  product,
  version,
}: {
  readonly open: Open;
  readonly product: Product;
  readonly version: Version | undefined;
}) {
  const { meant, held } = open;
  const pairs = [
    compareRecord("product", product.key, meant, held),
    ...(version && version.kind !== "product" ? [compareRecord(version.kind, version.key, meant, held)] : []),
  ];
  return (
    <section className="review" dir="ltr">
      {pairs.map((pair) => (
        <ReviewTable key={pair.kind} pair={pair} />
      ))}
    </section>
  );
}

function ReviewTable({ pair }: { readonly pair: RecordPair }) {
  const words = useWords();
  return (
    <div className="scroll-x" tabIndex={0} role="group" aria-label={`${pair.kind} ${pair.key}`}>
      <table>
        <caption>
          {pair.kind} <code>{pair.key}</code>{" "}
          <span className={pair.differing === 0 ? "sign good" : "sign error"}>
            <Icon name={pair.differing === 0 ? "good" : "error"} size={13} />
            {pair.differing === 0 ? words.same : `${pair.differing} × ${words.differs}`}
          </span>
        </caption>
        <thead>
          <tr>
            <th scope="col">{words.field}</th>
            <th scope="col">{words.meant}</th>
            <th scope="col">{words.held}</th>
          </tr>
        </thead>
        <tbody>
          {pair.fields.map(({ field, meant, held, isSame }) => (
            <tr key={field} className={isSame ? undefined : "differs"}>
              <th scope="row">
                <code>{field}</code>{" "}
                {!isSame && (
                  <span className="sign error">
                    <Icon name="error" size={13} />
                    {words.differs}
                  </span>
                )}
              </th>
              <td dir="auto">{meant ?? <i className="soft">{words.absent}</i>}</td>
              <td dir="auto">{held ?? <i className="soft">{words.absent}</i>}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
