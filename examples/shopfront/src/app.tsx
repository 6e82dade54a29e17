/** The shopfront: one platform's shop, in one of its languages, with or without the reviewer's view. */

import { Loader, NativeSelect, Switch } from "@mantine/core";
import { addressOf, directionOf, goTo, languageName, Mark, SkipLink, Switches, useWhere } from "@zest-tier/kit";
import { useEffect, useMemo, useState } from "react";
import { Reviewed } from "./compare.js";
import { Records, type ShopfrontData } from "./platform-data.js";
import { Currency } from "./money.js";
import { ProductPage } from "./product.js";
import { ReviewLine } from "./review.js";
import { Shelf } from "./shelf.js";
import { shopOf, type ShownShop } from "./shop.js";
import { useTexts } from "./texts/texts.js";

export interface Open {
  readonly name: string;
  readonly shop: ShownShop;
  readonly reviewed: Reviewed;
  readonly lang: string;
  readonly isReviewed: boolean;
  /** The address of something in this shop, in this language and view. */
  readonly address: (path: readonly string[], query?: Readonly<Record<string, string | undefined>>) => string;
}

async function ask<T>(path: string): Promise<T> {
  const answer = await fetch(path);
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
  return (await answer.json()) as T;
}

export function App() {
  const texts = useTexts();
  const { path, query } = useWhere();
  const [names, setNames] = useState<readonly string[]>();
  const [answer, setAnswer] = useState<ShopfrontData>();
  const [hasFailed, setFailed] = useState(false);
  const name = path[0] ?? names?.[0];

  useEffect(() => {
    ask<readonly string[]>("./shops.json").then(setNames, () => setFailed(true));
  }, []);
  useEffect(() => {
    if (name === undefined) return;
    let isCurrent = true;
    ask<ShopfrontData>(`./shops/${encodeURIComponent(name)}/shop.json`).then(
      (own) => isCurrent && setAnswer(own),
      () => isCurrent && setFailed(true),
    );
    return () => {
      isCurrent = false;
    };
  }, [name]);

  const reviewed = useMemo(() => answer && new Reviewed(answer.reviewed), [answer]);
  const shop = useMemo(() => answer && shopOf(new Records(answer.records)), [answer]);
  const wanted = query.get("lang");
  const lang = shop?.languages.find((one) => one === wanted) ?? shop?.languages[0] ?? "en";
  const isReviewed = query.get("view") === "reviewer";
  const address: Open["address"] = (to, more = {}) =>
    addressOf([answer?.name ?? name ?? "", ...to], { lang, view: isReviewed ? "reviewer" : undefined, ...more });
  const isOpen = shop && reviewed && answer && answer.name === name;
  const open: Open | undefined = isOpen ? { name: answer.name, shop, reviewed, lang, isReviewed, address } : undefined;
  const product = path[1] === "product" ? path[2] : undefined;
  const here = path.slice(1);

  return (
    <>
      <SkipLink to="content">{texts.skip}</SkipLink>
      <header className="bar">
        <span className="brand">
          <Mark />
          <b>Zest Tier</b> <span className="soft">{texts.title}</span>
        </span>
        {names && names.length > 0 && (
          <NativeSelect
            size="xs"
            aria-label={texts.platform}
            value={name ?? ""}
            data={[...names]}
            onChange={(event) =>
              goTo(addressOf([event.currentTarget.value], { view: isReviewed ? "reviewer" : undefined }))
            }
          />
        )}
        {open && (
          <>
            <NativeSelect
              size="xs"
              aria-label={texts.shopLanguage}
              value={lang}
              data={open.shop.languages.map((one) => ({ value: one, label: languageName(one) }))}
              onChange={(event) =>
                goTo(addressOf([open.name, ...here], { ...Object.fromEntries(query), lang: event.currentTarget.value }))
              }
            />
            <Switch
              size="sm"
              label={texts.reviewer}
              checked={isReviewed}
              onChange={(event) =>
                goTo(
                  addressOf([open.name, ...here], {
                    ...Object.fromEntries(query),
                    view: event.currentTarget.checked ? "reviewer" : undefined,
                  }),
                )
              }
            />
          </>
        )}
        <span className="spring" />
        <Switches />
      </header>
      <main id="content" tabIndex={-1}>
        {hasFailed ? (
          <div className="empty" role="alert">
            <h1>{texts.failedTitle}</h1>
            <p>{texts.failed}</p>
          </div>
        ) : !open ? (
          <p className="empty" role="status">
            <Loader size="xs" aria-hidden="true" /> {texts.loading}
          </p>
        ) : (
          <Currency.Provider value={answer?.currency ?? undefined}>
            {isReviewed && <ReviewLine open={open} />}
            <div lang={lang} dir={directionOf(lang)} className="shop">
              {product === undefined ? (
                <Shelf open={open} category={query.get("in") ?? undefined} />
              ) : (
                <ProductPage key={product} open={open} productKey={product} />
              )}
            </div>
          </Currency.Provider>
        )}
      </main>
    </>
  );
}
