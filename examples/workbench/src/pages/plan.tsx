/** Order: the steps as a drawing and as a list, why each is where it is, and the chain of one record. */

import { Anchor, Button, SegmentedControl, TextInput } from "@mantine/core";
import { addressOf, goTo, Icon, useWhere } from "@zest-tier/kit";
import { useEffect, useRef, useState } from "react";
import { useAsked, useProject } from "../open-project.js";
import type { PlanView, StepView } from "../workspace/views.js";
import { CommandLine, PageHead, Sign, useCommand, Waiting } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

export function PlanPage() {
  const texts = useTexts();
  const { overview, isSettled } = useProject();
  const { query } = useWhere();
  const command = useCommand();
  const record = query.get("record") ?? undefined;
  const step = Number(query.get("step") ?? 0);
  const { value: plan, isAsking } = useAsked((workspace) => workspace.plan(), "plan");
  const [shows, setShows] = useState<"picture" | "list">("picture");
  const next = !isSettled || !plan ? undefined : { label: texts.nextSteps.rows, href: addressOf(["rows"]) };
  return (
    <>
      <PageHead location="plan" next={next} />
      {!plan ? (
        isAsking ? (
          <Waiting>{texts.doing.plan}</Waiting>
        ) : (
          <p className="empty">{texts.plan.none}</p>
        )
      ) : (
        <>
          <div className="order-top">
            <p className="cost">
              <b>{texts.uploads(plan.uploads)}</b>
              <span>{texts.collections(plan.collections)}</span>
              <span>{texts.postponed(plan.postponed)}</span>
              <span className="soft">
                {plan.bound && isAbove(plan, plan.bound)
                  ? texts.plan.bound(plan.bound.collections, plan.bound.uploads)
                  : texts.plan.least}
              </span>
            </p>
            {plan.stopping > 0 && !overview!.holdBack && (
              <Anchor href={addressOf(["findings"], { severity: "error" })}>
                <Sign severity="error">{texts.plan.stopped(plan.stopping)}</Sign>
              </Anchor>
            )}
            <SegmentedControl
              size="xs"
              value={shows}
              onChange={(value) => setShows(value)}
              data={[
                { value: "picture", label: texts.plan.picture },
                { value: "list", label: texts.plan.list },
              ]}
            />
          </div>
          <div className="plan">
            <div className="order-steps">
              {shows === "picture" ? (
                <Drawing plan={plan} here={step} record={record} />
              ) : (
                <Steps steps={plan.steps} here={step} />
              )}
            </div>
            <aside className="order-side">
              <StepPanel plan={plan} here={step} />
              <Chain record={record} />
            </aside>
          </div>
        </>
      )}
      <CommandLine line={record === undefined ? command("plan") : command("plan", "--why", record)} />
    </>
  );
}

/** Whether there may be an order with less than this one. */
const isAbove = (plan: PlanView, bound: NonNullable<PlanView["bound"]>): boolean =>
  bound.collections < plan.collections || bound.uploads < plan.uploads;

const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

function Drawing({
  plan,
  here,
  record,
}: {
  readonly plan: PlanView;
  readonly here: number;
  readonly record: string | undefined;
}) {
  const texts = useTexts();
  const { width, height, box, boxes, bars, edges } = plan.picture;
  const steps = new Map(plan.steps.map((step) => [step.number, step]));
  const room = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (here > 0)
      room.current?.querySelector(`[data-step="${here}"]`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [here]);
  const isNear = (edge: PlanView["picture"]["edges"][number]) => edge.from === here || edge.to === here;
  return (
    <div className="drawing" ref={room}>
      <div style={{ width, height, position: "relative" }}>
        <svg width={width} height={height} aria-hidden="true" focusable="false">
          {bars.map(({ x, y1, y2, step }, at) => (
            <g key={step}>
              <line className="bar-line" x1={x} x2={x} y1={y1} y2={y2} />
              <text className="bar-word" x={x} y={y1 - 6} textAnchor="middle">
                {`${texts.plan.ids} ${at + 1}`}
              </text>
            </g>
          ))}
          {edges.map((edge) => (
            <path
              key={`${edge.from} ${edge.to}`}
              d={edge.path}
              className={`edge${edge.withIds ? " id" : ""}${isNear(edge) ? " near" : here > 0 ? " far" : ""}`}
            />
          ))}
        </svg>
        <ol aria-label={texts.plan.list}>
          {boxes.map(({ step: number, x, y, detail }) => {
            const step = steps.get(number)!;
            return (
              <li key={number} style={{ insetInlineStart: x, top: y, width: box.width, height: box.height }}>
                <a
                  href={addressOf(["plan"], { step: number, record })}
                  data-step={number}
                  className={step.is === "upload" ? "step-box upload" : "step-box"}
                  aria-current={number === here ? "step" : undefined}
                  title={step.why}
                >
                  <b>
                    {cut(`${number}. ${step.is === "upload" ? step.title.replace(/^Upload /, "") : step.title}`, 32)}
                  </b>
                  <span>{cut(detail, 36)}</span>
                </a>
              </li>
            );
          })}
        </ol>
      </div>
    </div>
  );
}

function Steps({ steps, here }: { readonly steps: readonly StepView[]; readonly here: number }) {
  return (
    <ol className="steps">
      {steps.map((step) => (
        <li key={step.number}>
          <a
            href={addressOf(["plan"], { step: step.number })}
            className="step-line"
            aria-current={step.number === here ? "step" : undefined}
          >
            <span className="number step-number">{step.number}</span>
            <span>
              <b>{step.title}</b>
              <span className="soft">{step.detail}</span>
            </span>
          </a>
        </li>
      ))}
    </ol>
  );
}

function StepPanel({ plan, here }: { readonly plan: PlanView; readonly here: number }) {
  const texts = useTexts();
  const step = plan.steps.find(({ number }) => number === here) ?? plan.steps.find(({ is }) => is === "upload");
  if (!step) return null;
  const titles = new Map(plan.steps.map(({ number, title }) => [number, title]));
  return (
    <section className="card" aria-label={texts.plan.step(step.number)}>
      <h2>
        {step.number}. {step.title}
      </h2>
      <p className="soft">{step.detail}</p>
      <p>
        <b>{texts.plan.why}:</b> <span>{step.why}</span>
      </p>
      {step.after.length > 0 && (
        <ul className="afters">
          {step.after.map(({ step: number, withIds }) => (
            <li key={number}>
              {texts.plan.after}{" "}
              <Anchor href={addressOf(["plan"], { step: number })}>
                {number}. <span>{titles.get(number)}</span>
              </Anchor>
              {withIds && <Sign severity="warning">{texts.plan.withIds}</Sign>}
            </li>
          ))}
        </ul>
      )}
      {step.files.map((file) => (
        <p key={file}>
          {step.is === "upload" ? (
            <Anchor href={addressOf(["rows", file])}>
              <code>{file}</code>
            </Anchor>
          ) : (
            <code>{file}</code>
          )}
        </p>
      ))}
    </section>
  );
}

function Chain({ record }: { readonly record: string | undefined }) {
  const texts = useTexts();
  const [word, setWord] = useState(record ?? "");
  useEffect(() => setWord(record ?? ""), [record]);
  const { value: chains, isAsking } = useAsked(
    async (workspace) => (record === undefined ? [] : await workspace.chain(record)),
    `chain ${record}`,
  );
  return (
    <section className="card" aria-label={texts.plan.find}>
      <form
        className="chain-form"
        onSubmit={(event) => {
          event.preventDefault();
          goTo(addressOf(["plan"], { record: word.trim() === "" ? undefined : word.trim() }));
        }}
      >
        <TextInput
          size="sm"
          label={texts.plan.find}
          description={texts.plan.findHint}
          value={word}
          onChange={(event) => setWord(event.currentTarget.value)}
        />
        <Button type="submit" size="compact-md" variant="default" aria-label={texts.plan.find}>
          <Icon name="go" />
        </Button>
      </form>
      {record !== undefined && !isAsking && chains?.length === 0 && <p className="empty">{texts.plan.nobody}</p>}
      {chains?.map((chain) => (
        <div key={chain.record}>
          <h3>{chain.record}</h3>
          <ol className="chain">
            {chain.links.map((link, at) => (
              <li key={at}>
                <Anchor href={addressOf(["plan"], { step: link.step, record })}>
                  {texts.plan.step(link.step)}: <span>{link.title}</span>
                </Anchor>{" "}
                <span className="soft">
                  {link.update === undefined ? texts.plan.makes : `${texts.plan.adds} ${link.update}`}
                </span>
                <ul>
                  {link.needs.map((need, n) => (
                    <li key={n}>
                      {texts.plan.needs}{" "}
                      <Anchor
                        href={addressOf(["plan"], { record: need.record.key })}
                      >{`${need.record.kind} ${need.record.key}`}</Anchor>{" "}
                      <span className="soft">
                        <code>{need.by}</code>:{" "}
                        {need.collectedIn !== undefined
                          ? texts.plan.collectedIn(need.collectedIn)
                          : need.createdIn !== undefined
                            ? texts.plan.createdIn(need.createdIn)
                            : texts.plan.there}
                      </span>
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ol>
        </div>
      ))}
    </section>
  );
}
