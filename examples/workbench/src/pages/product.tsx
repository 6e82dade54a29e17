/** One product with all that belongs to it: combinations, pictures, texts of all languages, option groups, what it is a bundle of. */

import { Anchor } from "@mantine/core";
import { addressOf, directionOf, Icon, languageName } from "@zest-tier/kit";
import { useEffect, useState } from "react";
import { useAsked, useProject } from "../open-project.js";
import { lineOf } from "../workspace/line-of.js";
import type { Matrix, ProductView, TextState } from "../workspace/views.js";
import { FindingLine, Sign, Waiting } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

export function Product({
  productKey,
  category,
}: {
  readonly productKey: string;
  readonly category: string | undefined;
}) {
  const texts = useTexts();
  const { value: product, isAsking } = useAsked((workspace) => workspace.product(productKey), `product ${productKey}`);
  if (!product)
    return isAsking ? <Waiting>{texts.doing.working}</Waiting> : <p className="empty">{texts.catalogue.none}</p>;
  const { location, source } = product;
  return (
    <article className="product" aria-busy={isAsking}>
      <a className="to-list" href={addressOf(["catalogue"], { in: category })}>
        <Icon name="back" /> {texts.back}
      </a>
      <h2 dir="auto">{product.name}</h2>
      <p className="product-links">
        <code>{product.key}</code>
        {source !== undefined && (
          <Anchor href={addressOf(["sources", source], { line: lineOf(location) })}>
            {texts.catalogue.sourceLink}
          </Anchor>
        )}
        <Anchor href={addressOf(["plan"], { record: product.key })}>{texts.catalogue.chainLink}</Anchor>
      </p>
      {product.categories.map((one) => (
        <p key={one} className="soft" dir="auto">
          {one}
        </p>
      ))}
      {product.findings.length > 0 && (
        <section>
          <h3>{texts.catalogue.found}</h3>
          <ul>
            {product.findings.map((one, at) => (
              <FindingLine key={at} finding={one} />
            ))}
          </ul>
        </section>
      )}
      {product.matrix && <MatrixTable matrix={product.matrix} />}
      <Pictures product={product} />
      <WorkbenchTexts product={product} />
      {product.optionGroups.length > 0 && (
        <section>
          <h3>{texts.catalogue.optionGroups}</h3>
          {product.optionGroups.map((group) => (
            <div key={group.name} className="option-group">
              <h4 dir="auto">
                {group.name} {group.isRequired && <Sign severity="note">{texts.catalogue.required}</Sign>}
              </h4>
              <ul>
                {group.choices.map((choice, at) => (
                  <li key={at}>
                    <span dir="auto">{choice.name}</span>{" "}
                    <span className="soft number">
                      {choice.surcharge === ""
                        ? texts.catalogue.free
                        : `+ ${choice.surcharge}${choice.isPercent ? " %" : ""}`}
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          ))}
        </section>
      )}
      {product.components.length > 0 && (
        <section>
          <h3>{texts.catalogue.bundle}</h3>
          <ul className="components">
            {product.components.map((component, at) => (
              <li key={at}>
                <span className="number">{component.quantity} ×</span>{" "}
                <Anchor href={addressOf(["catalogue", component.key])} dir="auto">
                  {component.name}
                </Anchor>{" "}
                <code className="soft">{component.code}</code>
              </li>
            ))}
          </ul>
          {product.sums?.price !== undefined && (
            <p className="soft">{texts.catalogue.sums(product.sums.price, product.sums.weight ?? "")}</p>
          )}
        </section>
      )}
      {product.relations.length > 0 && (
        <section>
          <h3>{texts.catalogue.related}</h3>
          <ul>
            {product.relations.map((relation, at) => (
              <li key={at}>
                <span className="soft">{relation.name}</span>{" "}
                <Anchor href={addressOf(["catalogue", relation.key])} dir="auto">
                  {relation.title}
                </Anchor>
              </li>
            ))}
          </ul>
        </section>
      )}
      {product.facts.length > 0 && (
        <section>
          <h3>{texts.catalogue.facts}</h3>
          <dl className="facts">
            {product.facts.map(([field, value]) => (
              <div key={field}>
                <dt lang="en">{field}</dt>
                <dd dir="auto">{value}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
    </article>
  );
}

/** A table that is wider than its room scrolls within it; then it can be reached by keys. */
function MatrixTable({ matrix }: { readonly matrix: Matrix }) {
  const texts = useTexts();
  const { axes, across, down, made, possible, isCut } = matrix;
  return (
    <section>
      <h3>{texts.catalogue.combinations}</h3>
      <p className="soft">
        {texts.catalogue.made(made, possible)} {isCut && texts.catalogue.cut}
      </p>
      <div className="scroll-x" tabIndex={0} role="group" aria-label={texts.catalogue.combinations}>
        <table className="matrix">
          <thead>
            <tr>
              {axes.slice(0, -1).map((axis) => (
                <th key={axis} scope="col" dir="auto">
                  {axis}
                </th>
              ))}
              {axes.length === 1 && <td />}
              {across.map((value, at) => (
                <th key={at} scope="col" dir="auto">
                  <span className="soft axis-name">{axes[axes.length - 1]}</span> {value}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {down.map((row, at) => (
              <tr key={at}>
                {row.values.map((value, n) => (
                  <th key={n} scope="row" dir="auto">
                    {value}
                  </th>
                ))}
                {axes.length === 1 && <th scope="row">{texts.catalogue.code}</th>}
                {row.cells.map((cell, n) => (
                  <td key={n} className={cell ? undefined : "gap"}>
                    {cell ? (
                      <>
                        <code>{cell.code}</code>
                        <span className="soft number">
                          {cell.price} {cell.status}
                        </span>
                      </>
                    ) : (
                      <i>{texts.catalogue.missing}</i>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Pictures({ product }: { readonly product: ProductView }) {
  const texts = useTexts();
  if (product.pictures.length === 0) return null;
  return (
    <section>
      <h3>{texts.catalogue.pictures}</h3>
      <ul className="pictures">
        {product.pictures.map(({ file, alternative, isThere }) => (
          <li key={file}>
            {isThere ? (
              <Picture file={file} alternative={alternative} />
            ) : (
              <Sign severity="warning">{texts.catalogue.pictureGone}</Sign>
            )}
            <code className="cut">{file}</code>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Picture({ file, alternative }: { readonly file: string; readonly alternative: string }) {
  const { workspace } = useProject();
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    let isCurrent = true;
    void workspace.picture(file).then((blob) => {
      if (!blob || !isCurrent) return;
      made = URL.createObjectURL(blob);
      setAddress(made);
    });
    return () => {
      isCurrent = false;
      if (made !== undefined) URL.revokeObjectURL(made);
    };
  }, [workspace, file]);
  return address === undefined ? (
    <span className="picture-room" />
  ) : (
    <img src={address} alt={alternative} loading="lazy" />
  );
}

const stateSigns: Readonly<Record<TextState, "good" | "note" | "warning" | "error">> = {
  source: "note",
  done: "good",
  missing: "warning",
  stale: "warning",
  "same as the source": "note",
};

/** All languages of a text beside each other. */
function WorkbenchTexts({ product }: { readonly product: ProductView }) {
  const texts = useTexts();
  if (product.texts.length === 0) return null;
  return (
    <section>
      <h3>{texts.catalogue.texts}</h3>
      {product.texts.map(({ field, cells }) => (
        <div key={field} className="texts">
          <h4 lang="en">{field}</h4>
          <ul>
            {cells.map(({ lang, text, state }) => (
              <li key={lang} className={text === undefined ? "text missing" : "text"}>
                <p className="text-top">
                  <span className="soft">{languageName(lang)}</span>
                  <Sign severity={stateSigns[state]}>{texts.catalogue.states[state]}</Sign>
                </p>
                {text !== undefined && (
                  <p lang={lang} dir={directionOf(lang)} className="text-words">
                    {text}
                  </p>
                )}
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}
