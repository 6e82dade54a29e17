/** The reviewer's view: what was meant beside what is held, for the whole shop in a line, for a product field by field. */

import { Icon } from "@zest-tier/kit";
import { useMemo } from "react";
import type { Open } from "./app.js";
import { compareAll, compareRecord, type RecordPair } from "./compare.js";
import type { Product, ShopVariant } from "./shop.js";
import { useTexts } from "./texts/texts.js";

export function ReviewLine({ open }: { readonly open: Open }) {
  const texts = useTexts();
  const { fields, differing } = useMemo(() => compareAll(open.meant, open.held), [open.meant, open.held]);
  const first = differing.map(({ key }) => open.shop.productOf(key)).find((product) => product !== undefined);
  const some = [...open.shop.products.values()][0];
  const next = differing.length > 0 ? first : some;
  return (
    <p className={differing.length === 0 ? "review-line good" : "review-line bad"} role="status">
      <b>{differing.length === 0 ? texts.allSame(fields) : texts.someDiffer(differing.length)}</b>
      {next && (
        <span>
          {texts.next}:{" "}
          <a href={open.address(["product", next.key])}>{differing.length > 0 ? texts.nextLook : texts.nextBrowse}</a>
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
  readonly version: ShopVariant | undefined;
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
  const texts = useTexts();
  return (
    <div className="scroll-x" tabIndex={0} role="group" aria-label={`${pair.kind} ${pair.key}`}>
      <table>
        <caption>
          {pair.kind} <code>{pair.key}</code>{" "}
          <span className={pair.differing === 0 ? "sign good" : "sign error"}>
            <Icon name={pair.differing === 0 ? "good" : "error"} size={13} />
            {pair.differing === 0 ? texts.same : `${pair.differing} × ${texts.differs}`}
          </span>
        </caption>
        <thead>
          <tr>
            <th scope="col">{texts.field}</th>
            <th scope="col">{texts.meant}</th>
            <th scope="col">{texts.held}</th>
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
                    {texts.differs}
                  </span>
                )}
              </th>
              <td dir="auto">{meant ?? <i className="soft">{texts.absent}</i>}</td>
              <td dir="auto">{held ?? <i className="soft">{texts.absent}</i>}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
