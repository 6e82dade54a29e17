/** Rehearsal: the upload played step by step, what is on the platform after each, and the verdict. */

import { Anchor, Button, Progress } from "@mantine/core";
import { addressOf, Icon } from "@zest-tier/kit";
import { useEffect, useState } from "react";
import { useSaving } from "../bar.js";
import { useAsked, useProject } from "../open-project.js";
import { lineOf } from "../workspace/line-of.js";
import type { PlayedView } from "../workspace/views.js";
import { CommandLine, PageHead, useCommand, Waiting } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

const stepMs = 350;

export function RehearsalPage() {
  const texts = useTexts();
  const { say } = useProject();
  const { saveUpload } = useSaving();
  const command = useCommand();
  const { value, isAsking } = useAsked((workspace) => workspace.rehearse(), "rehearse");
  const played = value?.played;
  const next = !played
    ? value && value.stopping > 0
      ? { label: texts.nextSteps.fix(value.stopping), href: addressOf(["findings"], { severity: "error" }) }
      : undefined
    : played.rebuilt
      ? {
          label: texts.nextSteps.save,
          onClick: () => void saveUpload().then((name) => say(name === undefined ? texts.notSaved : texts.saved(name))),
        }
      : { label: texts.nextSteps.differs, onClick: () => document.getElementById("differences")?.focus() };
  return (
    <>
      <PageHead location="rehearsal" next={next} />
      {!value || isAsking ? (
        <Waiting>{texts.doing.rehearsal}</Waiting>
      ) : !played ? (
        <p className="notice error" role="alert">
          {value.nothingLeft === undefined ? texts.rehearsal.stopped : texts.rehearsal.nothingLeft(value.nothingLeft)}
        </p>
      ) : (
        <>
          <Player played={played} />
          <VerdictCard played={played} />
        </>
      )}
      <CommandLine line={command("rehearse")} />
    </>
  );
}

function Player({ played }: { readonly played: PlayedView }) {
  const texts = useTexts();
  const { steps } = played;
  const [at, setAt] = useState(steps.length);
  const [isPlaying, setPlaying] = useState(false);
  useEffect(() => {
    if (!isPlaying) return;
    if (at >= steps.length) return setPlaying(false);
    const timer = setTimeout(() => setAt(at + 1), stepMs);
    return () => clearTimeout(timer);
  }, [isPlaying, at, steps.length]);
  const here = at === 0 ? undefined : steps[at - 1];
  const before = new Map(at > 1 ? steps[at - 2]!.held : []);
  const last = new Map(steps[steps.length - 1]?.held ?? []);
  const kinds = [...last.keys()];
  const held = new Map(here?.held ?? []);
  return (
    <section className="player card" aria-label={texts.rehearsal.play}>
      <div className="player-buttons">
        <Button
          leftSection={<Icon name={isPlaying ? "pause" : "play"} />}
          onClick={() => {
            if (!isPlaying && at >= steps.length) setAt(0);
            setPlaying(!isPlaying);
          }}
        >
          {isPlaying ? texts.rehearsal.pause : texts.rehearsal.play}
        </Button>
        <Button
          variant="default"
          disabled={at === 0}
          onClick={() => setAt(at - 1)}
          aria-label={texts.rehearsal.previousStep}
        >
          <Icon name="back" />
        </Button>
        <Button
          variant="default"
          disabled={at >= steps.length}
          onClick={() => setAt(at + 1)}
          aria-label={texts.rehearsal.nextStep}
        >
          <Icon name="go" />
        </Button>
        <Button variant="default" disabled={at >= steps.length} onClick={() => setAt(steps.length)}>
          {texts.rehearsal.end}
        </Button>
        <span className="number" role="status">
          {texts.rehearsal.step(at, steps.length)}
        </span>
      </div>
      <div className="player-body">
        <ol className="played" aria-label={texts.plan.list}>
          {steps.map((step, n) => (
            <li key={n} className={n < at ? "done" : "open"} aria-current={n === at - 1 ? "step" : undefined}>
              <button type="button" onClick={() => setAt(n + 1)}>
                <span className="number step-number">{step.step}</span>
                <span>
                  <span>{step.title}</span>
                  {step.round > 0 && <span className="soft"> {texts.rehearsal.round(step.round + 1)}</span>}
                </span>
                <span className="soft number">
                  {n < at &&
                    (["created", "updated", "unchanged", "deleted", "refused"] as const)
                      .filter((outcome) => step.counts[outcome] > 0)
                      .map((outcome) => `${step.counts[outcome].toLocaleString()} ${texts.rehearsal.outcomes[outcome]}`)
                      .join(", ")}
                </span>
              </button>
            </li>
          ))}
        </ol>
        <div className="holds">
          <h2>{texts.rehearsal.holds}</h2>
          <dl>
            {kinds.map((kind) => {
              const now = held.get(kind) ?? 0;
              const more = now - (before.get(kind) ?? 0);
              return (
                <div key={kind}>
                  <dt>{kind}</dt>
                  <dd className="number">
                    {now.toLocaleString()}
                    {more > 0 && <span className="more-held">+{more.toLocaleString()}</span>}
                    <Progress value={(100 * now) / Math.max(1, last.get(kind) ?? 1)} size="xs" aria-label={kind} />
                  </dd>
                </div>
              );
            })}
          </dl>
          {kinds.length === 0 && <p className="soft">{texts.rehearsal.nothing}</p>}
        </div>
      </div>
    </section>
  );
}

function VerdictCard({ played }: { readonly played: PlayedView }) {
  const texts = useTexts();
  const { counts, differences, differenceCount, refusedRows, uncarried, hidden } = played;
  return (
    <>
      <section
        className={played.rebuilt ? "card verdict good" : "card verdict bad"}
        aria-label={texts.rehearsal.verdict}
      >
        <h2>
          <Icon name={played.rebuilt ? "good" : "error"} size={22} />
          {played.rebuilt ? texts.rehearsal.rebuilt : texts.rehearsal.notRebuilt}
        </h2>
        <p className="number">
          {(["created", "updated", "unchanged", "deleted", "refused"] as const)
            .filter((outcome) => counts[outcome] > 0)
            .map((outcome) => `${texts.rowsCount(counts[outcome])} ${texts.rehearsal.outcomes[outcome]}`)
            .join(", ")}
        </p>
        {differenceCount === 0 && <p>{texts.rehearsal.noDifferences}</p>}
      </section>
      {refusedRows.length > 0 && (
        <section className="card">
          <h2>{texts.rehearsal.refusedRows}</h2>
          <ul>
            {refusedRows.map((row, at) => (
              <li key={at} className="finding-line">
                <Anchor href={addressOf(["rows", row.file], { line: row.line })}>
                  <code>{`${row.file}:${row.line}`}</code>
                </Anchor>
                <span lang="en">
                  {row.record}: {row.reasons.join("; ")}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {differenceCount > 0 && (
        <section className="card" id="differences" tabIndex={-1}>
          <h2>{texts.rehearsal.differences(differenceCount)}</h2>
          <div className="scroll-x" tabIndex={0} role="group" aria-label={texts.rehearsal.differences(differenceCount)}>
            <table className="plain-table">
              <thead>
                <tr>
                  <th scope="col">{texts.rehearsal.record}</th>
                  <th scope="col">{texts.rehearsal.field}</th>
                  <th scope="col">{texts.rehearsal.intended}</th>
                  <th scope="col">{texts.rehearsal.actual}</th>
                </tr>
              </thead>
              <tbody>
                {differences.map((one, at) => (
                  <tr key={at}>
                    <td>
                      {one.source === undefined || !one.at ? (
                        `${one.kind} ${one.key}`
                      ) : (
                        <Anchor
                          href={addressOf(["sources", one.source], { line: lineOf(one.at), column: one.at.column })}
                        >
                          {`${one.kind} ${one.key}`}
                        </Anchor>
                      )}
                    </td>
                    <td>
                      <code>{one.field ?? ""}</code>
                    </td>
                    <td dir="auto">{one.intended}</td>
                    <td dir="auto">{one.actual}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      )}
      <section className="card">
        {uncarried.length > 0 && <h2>{texts.rehearsal.uncarried(uncarried.length)}</h2>}
        {uncarried.length === 0 && <p>{texts.rehearsal.carriesAll}</p>}
        <ul className="uncarried">
          {uncarried.map((one) => (
            <li key={one.lost}>
              <p>
                <code>{one.lost}</code> <span className="number">{texts.records(one.count)}</span>{" "}
                <span className="soft">{one.examples.join(", ")}</span>
              </p>
              {one.instead !== undefined && (
                <p>
                  <b>{texts.rehearsal.instead}:</b> <span>{one.instead}</span>
                </p>
              )}
            </li>
          ))}
        </ul>
      </section>
      {hidden.length > 0 && (
        <section className="card">
          <h2>{texts.rehearsal.hidden}</h2>
          <ul>
            {hidden.map(({ key, reasons }) => (
              <li key={key}>
                <Anchor href={addressOf(["catalogue", key])}>{key}</Anchor> <span lang="en">{reasons.join("; ")}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
