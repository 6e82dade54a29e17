/** A product as its buyer meets it: its axes and option groups work, and only what is made can be chosen. */

import { Icon, languageName } from "@zest-tier/kit";
import { useState } from "react";
import type { Open } from "./app.js";
import { useAmount } from "./money.js";
import { Review } from "./review.js";
import { Picture } from "./shelf.js";
import {
  inLanguage,
  priceWith,
  type Axis,
  type Choice,
  type ShopOptionGroup,
  type Product,
  type ShopVariant,
} from "./shop.js";
import { useTexts } from "./texts/texts.js";

export function ProductPage({ open, productKey }: { readonly open: Open; readonly productKey: string }) {
  const texts = useTexts();
  const product = open.shop.products.get(productKey);
  if (!product)
    return (
      <p className="empty">
        {texts.nothingFound} <a href={open.address([])}>{texts.back}</a>
      </p>
    );
  return <Sold open={open} product={product} />;
}

function Sold({ open, product }: { readonly open: Open; readonly product: Product }) {
  const texts = useTexts();
  const { lang, name } = open;
  const [values, setValues] = useState<readonly (string | undefined)[]>(
    () => product.variants.find(({ status }) => status === "selling")?.values ?? product.variants[0]?.values ?? [],
  );
  const [chosen, setChosen] = useState<ReadonlyMap<number, number>>(new Map());
  const variant = product.variants.find((one) => one.values.every((value, at) => value === values[at]));
  const choices = [...chosen].flatMap(([group, choice]) => product.optionGroups[group]?.choices[choice] ?? []);
  const pictures = [...new Set([...(variant?.pictures ?? []), ...product.pictures])];
  const [big, setBig] = useState(0);
  const title = inLanguage(product.names, lang) || product.key;
  const description = inLanguage(product.descriptions, lang);
  const isElsewhere = !product.names.has(lang) || (product.descriptions.size > 0 && !product.descriptions.has(lang));
  return (
    <article className="sold">
      <a className="to-shelf" href={open.address([], { in: product.nodes[0] })}>
        <Icon name="back" /> {texts.back}
      </a>
      <div className="sold-top">
        <div className="gallery">
          <Picture key={pictures[big]} shop={name} file={pictures[big] ?? pictures[0]} alternative={title} />
          {pictures.length > 1 && (
            <ul>
              {pictures.map((file, at) => (
                <li key={file}>
                  <button
                    type="button"
                    aria-pressed={at === big}
                    aria-label={`${texts.picture} ${at + 1}`}
                    onClick={() => setBig(at)}
                  >
                    <Picture shop={name} file={file} alternative="" />
                  </button>
                </li>
              ))}
            </ul>
          )}
        </div>
        <div className="offer">
          <h1 dir="auto">{title}</h1>
          {product.brand !== undefined && <p className="soft">{product.brand}</p>}
          {isElsewhere && <p className="notice">{texts.missingText(languageName(lang))}</p>}
          <p dir="auto" className="description">
            {description}
          </p>
          {product.axes.map((axis, at) => (
            <AxisChoice key={at} axis={axis} at={at} open={open} product={product} values={values} choose={setValues} />
          ))}
          {product.optionGroups.map((group, at) => (
            <OptionChoice
              key={at}
              group={group}
              open={open}
              chosen={chosen.get(at)}
              choose={(choice) => {
                const next = new Map(chosen);
                if (choice === undefined) next.delete(at);
                else next.set(at, choice);
                setChosen(next);
              }}
            />
          ))}
          <Price variant={variant} choices={choices} />
        </div>
      </div>
      {product.parts.length > 0 && (
        <section>
          <h2>{texts.parts}</h2>
          <ul className="parts">
            {product.parts.map(({ name: part, quantity }) => {
              const of = open.shop.productOf(part);
              return (
                <li key={part}>
                  <span className="number">{quantity} ×</span>{" "}
                  {of ? <a href={open.address(["product", of.key])}>{inLanguage(of.names, lang)}</a> : part}{" "}
                  <code className="soft">{part}</code>
                </li>
              );
            })}
          </ul>
        </section>
      )}
      {product.related.length > 0 && (
        <section>
          <h2>{texts.related}</h2>
          <ul className="parts">
            {product.related.map(({ key }) => {
              const of = open.shop.productOf(key);
              return (
                <li key={key}>
                  {of ? <a href={open.address(["product", of.key])}>{inLanguage(of.names, lang)}</a> : key}
                </li>
              );
            })}
          </ul>
        </section>
      )}
      {open.isReviewed && <Review open={open} product={product} variant={variant} />}
    </article>
  );
}

interface AxisProps {
  readonly axis: Axis;
  readonly at: number;
  readonly open: Open;
  readonly product: Product;
  readonly values: readonly (string | undefined)[];
  readonly choose: (values: readonly (string | undefined)[]) => void;
}

/** Values that are not made together with what is chosen on the other axes can be chosen anyway: the others then follow. */
function AxisChoice({ axis, at, open, product, values, choose }: AxisProps) {
  const texts = useTexts();
  const fits = (id: string): ShopVariant | undefined =>
    product.variants.find((one) => one.values.every((value, n) => value === (n === at ? id : values[n])));
  const nearest = (id: string): readonly (string | undefined)[] => {
    const withIt = product.variants.filter((one) => one.values[at] === id);
    const alike = (one: ShopVariant) => one.values.filter((value, n) => value === values[n]).length;
    return withIt.sort((a, b) => alike(b) - alike(a))[0]?.values ?? values;
  };
  const title = inLanguage(axis.names, open.lang);
  return (
    <fieldset className="axis">
      <legend dir="auto">{title}</legend>
      <div className="values">
        {axis.values.map(({ id, names }) => {
          const isMade = fits(id) !== undefined;
          return (
            <label key={id} className={isMade ? "value" : "value unmade"}>
              <input
                type="radio"
                name={`axis ${at}`}
                checked={values[at] === id}
                onChange={() => choose(isMade ? values.map((value, n) => (n === at ? id : value)) : nearest(id))}
              />
              <span dir="auto">
                {inLanguage(names, open.lang)}
                {!isMade && <small>{texts.unavailable}</small>}
              </span>
            </label>
          );
        })}
      </div>
    </fieldset>
  );
}

interface OptionProps {
  readonly group: ShopOptionGroup;
  readonly open: Open;
  readonly chosen: number | undefined;
  readonly choose: (choice: number | undefined) => void;
}

function OptionChoice({ group, open, chosen, choose }: OptionProps) {
  const texts = useTexts();
  const amount = useAmount();
  const title = inLanguage(group.names, open.lang);
  const of = (choice: Choice) =>
    choice.surcharge === 0 ? texts.free : `+ ${choice.isPercent ? `${choice.surcharge} %` : amount(choice.surcharge)}`;
  return (
    <fieldset className="axis">
      <legend dir="auto">
        {title} <span className="soft">{group.isRequired ? texts.required : texts.optional}</span>
      </legend>
      <div className="values">
        {!group.isRequired && (
          <label className="value">
            <input
              type="radio"
              name={`option ${title}`}
              checked={chosen === undefined}
              onChange={() => choose(undefined)}
            />
            <span>{texts.nothing}</span>
          </label>
        )}
        {group.choices.map((choice, at) => (
          <label key={at} className="value">
            <input type="radio" name={`option ${title}`} checked={chosen === at} onChange={() => choose(at)} />
            <span dir="auto">
              {inLanguage(choice.names, open.lang)} <small>{of(choice)}</small>
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function Price({
  variant,
  choices,
}: {
  readonly variant: ShopVariant | undefined;
  readonly choices: readonly Choice[];
}) {
  const texts = useTexts();
  const amount = useAmount();
  if (!variant)
    return (
      <p className="price-line none" role="status">
        {texts.notSold}
      </p>
    );
  const price = variant.price === undefined ? undefined : priceWith(variant.price, choices);
  const stands =
    variant.status === "paused"
      ? texts.paused
      : variant.status === "ended"
        ? texts.ended
        : variant.stock === undefined
          ? ""
          : variant.stock > 0
            ? texts.inStock(variant.stock)
            : texts.outOfStock;
  return (
    <div className="price-line" role="status">
      {price && (
        <p className="price">
          <span className="number">{amount(price.whole / 100)}</span>
          {variant.was !== undefined && (
            <span className="soft">
              {" "}
              {texts.was} <s className="number">{amount(Number(variant.was))}</s>
            </span>
          )}
        </p>
      )}
      {price && price.surcharge > 0 && <p className="soft">{texts.withSurcharge(amount(price.surcharge / 100))}</p>}
      <p>
        {texts.code} <code>{variant.code}</code> {stands !== "" && <span className="soft">· {stands}</span>}
      </p>
      {variant.tiers.length > 0 && (
        <div>
          <h2>{texts.tiers}</h2>
          <ul>
            {variant.tiers.map((tier, at) => (
              <li key={at}>
                {texts.tier(tier.from, tier.group, tier.hire)}:{" "}
                <span className="number">{amount(Number(tier.amount))}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}
