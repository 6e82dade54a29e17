/** The reviewer's view: what was intended beside what is on the platform. A line for the whole shop, field by field for a product. */

import { Icon } from "@zest-tier/kit";
import type { Open } from "./app.js";
import { differingIn } from "./compare.js";
import type { RecordPair } from "./platform-data.js";
import type { Product, ShopVariant } from "./shop.js";
import { useTexts } from "./texts/texts.js";

export function ReviewLine({ open }: { readonly open: Open }) {
  const texts = useTexts();
  const { fields, differing } = open.reviewed;
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

/** Intended beside actual, field by field, for the product and the chosen variant. */
export function Review({
  open,
  product,
  variant,
}: {
  readonly open: Open;
  readonly product: Product;
  readonly variant: ShopVariant | undefined;
}) {
  const { reviewed } = open;
  const pairs = [
    reviewed.find("product", product.key),
    ...(variant && variant.kind !== "product" ? [reviewed.find(variant.kind, variant.key)] : []),
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
  const differing = differingIn(pair);
  return (
    <div className="scroll-x" tabIndex={0} role="group" aria-label={`${pair.kind} ${pair.key}`}>
      <table>
        <caption>
          {pair.kind} <code>{pair.key}</code>{" "}
          <span className={differing === 0 ? "sign good" : "sign error"}>
            <Icon name={differing === 0 ? "good" : "error"} size={13} />
            {differing === 0 ? texts.same : `${differing} × ${texts.differs}`}
          </span>
        </caption>
        <thead>
          <tr>
            <th scope="col">{texts.field}</th>
            <th scope="col">{texts.intended}</th>
            <th scope="col">{texts.onPlatform}</th>
          </tr>
        </thead>
        <tbody>
          {pair.fields.map(({ field, intended, onPlatform, isSame }) => (
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
              <td dir="auto">{intended ?? <i className="soft">{texts.absent}</i>}</td>
              <td dir="auto">{onPlatform ?? <i className="soft">{texts.absent}</i>}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
