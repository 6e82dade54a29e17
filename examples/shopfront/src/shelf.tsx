/** The tree, the search, and the products that stand there. */

import { TextInput } from "@mantine/core";
import { Icon } from "@zest-tier/kit";
import { useMemo, useState } from "react";
import type { Open } from "./app.js";
import { differingIn } from "./compare.js";
import { Amount } from "./money.js";
import { inLanguage, type Node, type Product } from "./shop.js";
import { useTexts } from "./texts/texts.js";

export function Shelf({ open, category }: { readonly open: Open; readonly category: string | undefined }) {
  const texts = useTexts();
  const { shop, lang } = open;
  const [search, setSearch] = useState("");
  const products = useMemo(() => [...shop.products.values()], [shop]);
  const within = useMemo(() => (category === undefined ? undefined : below(shop.tree, category)), [shop, category]);
  const sought = search.trim().toLowerCase();
  const shown = products.filter(
    (product) =>
      (within === undefined || product.nodes.some((node) => within.has(node))) &&
      (sought === "" || isNamed(product, sought)),
  );
  return (
    <div className="shelf">
      <nav className="tree" aria-label={texts.categories}>
        <ul>
          <li>
            <a href={open.address([])} aria-current={category === undefined ? "true" : undefined}>
              {texts.all}
            </a>
          </li>
          {shop.tree.map((node) => (
            <Branch key={node.id} node={node} open={open} here={category} />
          ))}
        </ul>
      </nav>
      <section aria-label={texts.products(shown.length)}>
        <div className="shelf-top">
          <h1>{category === undefined ? texts.all : nameOf(shop.tree, category, lang)}</h1>
          <TextInput
            aria-label={texts.search}
            placeholder={texts.search}
            leftSection={<Icon name="search" />}
            value={search}
            onChange={(event) => setSearch(event.currentTarget.value)}
          />
        </div>
        <p className="soft" role="status">
          {texts.products(shown.length)}
        </p>
        {products.length === 0 && <p className="empty">{texts.emptyShop}</p>}
        {products.length > 0 && shown.length === 0 && <p className="empty">{texts.nothingFound}</p>}
        <ul className="cards">
          {shown.map((product) => (
            <ProductCard key={product.key} product={product} open={open} />
          ))}
        </ul>
      </section>
    </div>
  );
}

function Branch({ node, open, here }: { readonly node: Node; readonly open: Open; readonly here: string | undefined }) {
  const isHere = here !== undefined && below([node], node.id).has(here);
  return (
    <li>
      <a href={open.address([], { in: node.id })} aria-current={here === node.id ? "true" : undefined}>
        {inLanguage(node.names, open.lang)}
      </a>
      {isHere && node.children.length > 0 && (
        <ul>
          {node.children.map((child) => (
            <Branch key={child.id} node={child} open={open} here={here} />
          ))}
        </ul>
      )}
    </li>
  );
}

function ProductCard({ product, open }: { readonly product: Product; readonly open: Open }) {
  const texts = useTexts();
  const { lang, name, isReviewed, reviewed } = open;
  const prices = product.variants.flatMap(({ price }) => (price === undefined ? [] : [Number(price)]));
  const [least, most] = [prices.reduce((a, b) => Math.min(a, b), Infinity), prices.reduce((a, b) => Math.max(a, b), 0)];
  const picture = product.pictures[0] ?? product.variants.flatMap(({ pictures }) => pictures)[0];
  const variants = product.variants.filter(({ kind }) => kind !== "product");
  const records = [["product", product.key] as const, ...variants.map(({ kind, key }) => [kind, key] as const)];
  const differing = isReviewed
    ? records.reduce((sum, [kind, key]) => sum + differingIn(reviewed.find(kind, key)), 0)
    : 0;
  return (
    <li className="product-card">
      <a href={open.address(["product", product.key])}>
        <Picture shop={name} file={picture} alternative="" />
        <span className="card-name" dir="auto">
          {inLanguage(product.names, lang) || product.key}
        </span>
        {prices.length > 0 && (
          <span className="card-price">
            {least < most && <span className="soft">{texts.from} </span>}
            <Amount value={least} />
          </span>
        )}
        {!product.isShown && <span className="soft">{texts.hidden}</span>}
        {isReviewed && (
          <span className={differing === 0 ? "sign good" : "sign error"}>
            <Icon name={differing === 0 ? "good" : "error"} size={13} />
            {differing === 0 ? texts.same : `${differing} × ${texts.differs}`}
          </span>
        )}
      </a>
    </li>
  );
}

interface PictureProps {
  readonly shop: string;
  readonly file: string | undefined;
  readonly alternative: string;
}

/** A picture that the platform has; a plain ground where it has none. */
export function Picture({ shop, file, alternative }: PictureProps) {
  const [isGone, setGone] = useState(false);
  if (file === undefined || isGone) return <span className="no-picture" aria-hidden="true" />;
  return (
    <img
      src={`./shops/${encodeURIComponent(shop)}/pictures/${encodeURIComponent(file)}`}
      alt={alternative}
      loading="lazy"
      onError={() => setGone(true)}
    />
  );
}

/** A node and all below it. */
function below(nodes: readonly Node[], id: string): ReadonlySet<string> {
  const all = new Set<string>();
  const walk = (node: Node, isIn: boolean) => {
    const own = isIn || node.id === id;
    if (own) all.add(node.id);
    for (const child of node.children) walk(child, own);
  };
  for (const node of nodes) walk(node, false);
  return all;
}

function nameOf(nodes: readonly Node[], id: string, lang: string): string {
  for (const node of nodes) {
    if (node.id === id) return inLanguage(node.names, lang);
    const found = nameOf(node.children, id, lang);
    if (found !== "") return found;
  }
  return "";
}

const isNamed = (product: Product, sought: string): boolean =>
  [product.key, ...product.names.values(), ...product.variants.map(({ code }) => code)].some((text) =>
    text.toLowerCase().includes(sought),
  );
