/** Catalogue: the tree with its products; the one that is chosen stands beside them. */

import { Button, TextInput } from "@mantine/core";
import { addressOf, Icon, useWhere } from "@zest-tier/kit";
import { useEffect, useState } from "react";
import { useAsked, useProject } from "../open-project.js";
import type { TreeNode } from "../workspace/views.js";
import { CommandLine, Counts, PageHead, useCommand, Waiting } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";
import { Product } from "./product.js";

const pageSize = 60;

export function CataloguePage() {
  const texts = useTexts();
  const { overview, isSettled } = useProject();
  const { path, query } = useWhere();
  const [, key] = path;
  const category = query.get("in") ?? undefined;
  const command = useCommand();
  const { found } = overview!;
  const next = !isSettled
    ? undefined
    : found.error > 0
      ? { label: texts.nextSteps.fix(found.error), href: addressOf(["findings"], { severity: "error" }) }
      : { label: texts.nextSteps.plan, href: addressOf(["plan"]) };
  return (
    <>
      <PageHead location="catalogue" next={next} />
      <div className={key === undefined ? "catalogue" : "catalogue has-product"}>
        <Tree here={category} />
        <Products category={category} here={key} />
        <div className="product-room">
          {key === undefined ? (
            <p className="soft empty">{texts.catalogue.pick}</p>
          ) : (
            <Product productKey={key} category={category} />
          )}
        </div>
      </div>
      <CommandLine line={command("check")} />
    </>
  );
}

function Tree({ here }: { readonly here: string | undefined }) {
  const texts = useTexts();
  const { value: tree } = useAsked((workspace) => workspace.tree(), "tree");
  if (!tree) return <Waiting>{texts.doing.working}</Waiting>;
  return (
    <nav className="tree" aria-label={texts.catalogue.tree}>
      <ul>
        <li>
          <a href={addressOf(["catalogue"])} aria-current={here === undefined ? "true" : undefined}>
            {texts.catalogue.all} <span className="soft number">{tree.all}</span>
          </a>
        </li>
        {tree.roots.map((node) => (
          <Branch key={node.key} node={node} here={here} depth={0} />
        ))}
        {tree.loose > 0 && (
          <li>
            <a href={addressOf(["catalogue"], { in: "" })} aria-current={here === "" ? "true" : undefined}>
              {texts.catalogue.loose} <span className="soft number">{tree.loose}</span>
            </a>
          </li>
        )}
      </ul>
    </nav>
  );
}

const holds = (node: TreeNode, key: string | undefined): boolean =>
  node.key === key || node.children.some((child) => holds(child, key));

function Branch({
  node,
  here,
  depth,
}: {
  readonly node: TreeNode;
  readonly here: string | undefined;
  readonly depth: number;
}) {
  const [isOpen, setOpen] = useState(depth < 1 || holds(node, here));
  const link = (
    <a
      href={addressOf(["catalogue"], { in: node.key })}
      aria-current={here === node.key ? "true" : undefined}
      dir="auto"
    >
      {node.name} <span className="soft number">{node.products}</span>
    </a>
  );
  if (node.children.length === 0) return <li className="leaf">{link}</li>;
  return (
    <li>
      <span className="branch">
        <button type="button" aria-expanded={isOpen} aria-label={node.name} onClick={() => setOpen(!isOpen)}>
          <Icon name={isOpen ? "down" : "closed"} size={13} />
        </button>
        {link}
      </span>
      {isOpen && (
        <ul>
          {node.children.map((child) => (
            <Branch key={child.key} node={child} here={here} depth={depth + 1} />
          ))}
        </ul>
      )}
    </li>
  );
}

function Products({ category, here }: { readonly category: string | undefined; readonly here: string | undefined }) {
  const texts = useTexts();
  const [search, setSearch] = useState("");
  const [shown, setShown] = useState(pageSize);
  useEffect(() => setShown(pageSize), [category, search]);
  const { value } = useAsked(
    (workspace) => workspace.products(category, search, 0, shown),
    `products ${category} ${search} ${shown}`,
  );
  return (
    <section className="products" aria-label={texts.productsCount(value?.total ?? 0)}>
      <TextInput
        size="sm"
        aria-label={texts.catalogue.search}
        placeholder={texts.catalogue.search}
        leftSection={<Icon name="search" />}
        value={search}
        onChange={(event) => setSearch(event.currentTarget.value)}
      />
      <p className="soft number">{value ? texts.productsCount(value.total) : "…"}</p>
      {value?.total === 0 && <p className="empty">{texts.catalogue.none}</p>}
      <ul>
        {value?.rows.map((product) => (
          <li key={product.key}>
            <a
              href={addressOf(["catalogue", product.key], { in: category })}
              aria-current={here === product.key ? "true" : undefined}
            >
              <span className="product-name" dir="auto">
                {product.name}
              </span>
              <span className="product-line soft">
                <code>{product.code === "" ? product.key : product.code}</code>
                {product.variants > 0 && <span>{texts.variantsCount(product.variants)}</span>}
                <Counts found={product.found} isShort />
              </span>
            </a>
          </li>
        ))}
      </ul>
      {value !== undefined && value.total > value.rows.length && (
        <Button variant="default" size="compact-sm" onClick={() => setShown(shown + pageSize * 4)}>
          {texts.findings.more}
        </Button>
      )}
    </section>
  );
}
