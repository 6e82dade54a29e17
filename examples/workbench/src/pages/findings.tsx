/** Findings: grouped, filtered, counted; each one step from its cell. */

import { Button, NativeSelect, SegmentedControl, TextInput } from "@mantine/core";
import { addressOf, goTo, Icon, useWhere } from "@zest-tier/kit";
import { useEffect, useState } from "react";
import { useAsked, useProject } from "../open-project.js";
import type { FindingFilter, FindingGroup } from "../workspace/views.js";
import { CommandLine, findingAddress, FindingLine, PageHead, Sign, useCommand, Waiting } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

const pageSize = 50;
type Severity = "error" | "warning" | "note";
const severities: readonly Severity[] = ["error", "warning", "note"];

export function FindingsPage() {
  const texts = useTexts();
  const { overview, isSettled } = useProject();
  const { query } = useWhere();
  const command = useCommand();
  const severity = severities.find((one) => one === query.get("severity"));
  const code = query.get("code") ?? undefined;
  const file = query.get("file") ?? undefined;
  const [text, setText] = useState("");
  const filter: FindingFilter = { severity, file, text };
  const { value } = useAsked((workspace) => workspace.groups(filter), `groups ${severity} ${file} ${text}`);
  const to = (changes: Readonly<Record<string, string | undefined>>) =>
    goTo(addressOf(["findings"], { severity, code, file, ...changes }));
  const { found } = overview!;
  const { value: worst } = useAsked((workspace) => workspace.findings({ severity: "error" }, 0, 50), "worst");
  const first = worst?.rows.map(findingAddress).find((address) => address !== undefined);
  const next = !isSettled
    ? undefined
    : found.error === 0
      ? { label: texts.nextSteps.plan, href: addressOf(["plan"]) }
      : first === undefined
        ? undefined
        : { label: texts.nextSteps.first, href: first };
  return (
    <>
      <PageHead location="findings" next={next} />
      <div className="finding-filters">
        <SegmentedControl
          aria-label={texts.findings.severity}
          size="sm"
          value={severity ?? ""}
          onChange={(chosen) => to({ severity: chosen === "" ? undefined : chosen, code: undefined })}
          data={[
            { value: "", label: texts.found.all },
            ...severities.map((one) => ({ value: one, label: texts.found[one](value?.counts[one] ?? found[one]) })),
          ]}
        />
        <NativeSelect
          aria-label={texts.findings.file}
          value={file ?? ""}
          data={[
            { value: "", label: texts.findings.allFiles },
            ...(value?.files ?? []).map((one) => ({ value: one, label: one })),
          ]}
          onChange={(event) =>
            to({ file: event.currentTarget.value === "" ? undefined : event.currentTarget.value, code: undefined })
          }
        />
        <TextInput
          aria-label={texts.findings.filter}
          placeholder={texts.findings.filter}
          leftSection={<Icon name="search" />}
          value={text}
          onChange={(event) => setText(event.currentTarget.value)}
        />
      </div>
      {!value ? (
        <Waiting>{texts.doing.working}</Waiting>
      ) : value.groups.length === 0 ? (
        <p className="empty">
          {text === "" && severity === undefined && file === undefined ? texts.findings.none : texts.findings.noneFit}
        </p>
      ) : (
        <ul className="finding-groups" aria-label={texts.findings.kinds}>
          {value.groups.map((group) => (
            <Group
              key={group.code}
              group={group}
              filter={filter}
              isOpen={code === group.code}
              toggle={() => to({ code: code === group.code ? undefined : group.code })}
            />
          ))}
        </ul>
      )}
      <CommandLine line={command("check", "--all")} />
    </>
  );
}

interface GroupProps {
  readonly group: FindingGroup;
  readonly filter: FindingFilter;
  readonly isOpen: boolean;
  readonly toggle: () => void;
}

function Group({ group, filter, isOpen, toggle }: GroupProps) {
  const texts = useTexts();
  return (
    <li className={isOpen ? "finding-group open" : "finding-group"}>
      <h2>
        <button type="button" aria-expanded={isOpen} onClick={toggle}>
          <Sign severity={group.severity}>{texts.one[group.severity]}</Sign>
          <span className="group-count number">{group.count.toLocaleString()} ×</span>
          <span className="group-text">
            <span className="group-example" dir="auto">
              {group.example}
            </span>
            <code className="soft">{group.code}</code>
          </span>
          <Icon name={isOpen ? "up" : "down"} />
        </button>
      </h2>
      {isOpen && <GroupList group={group} filter={filter} />}
    </li>
  );
}

function GroupList({ group, filter }: { readonly group: FindingGroup; readonly filter: FindingFilter }) {
  const texts = useTexts();
  const [shown, setShown] = useState(pageSize);
  useEffect(() => setShown(pageSize), [group.code]);
  const { value } = useAsked(
    (workspace) => workspace.findings({ ...filter, code: group.code }, 0, shown),
    `list ${group.code} ${filter.severity} ${filter.file} ${filter.text} ${shown}`,
  );
  return (
    <div className="group-list">
      <p className="todo">
        <b>{texts.findings.todo}:</b> <span>{group.remedy}</span>
      </p>
      {!value ? (
        <Waiting>{texts.doing.working}</Waiting>
      ) : (
        <>
          <ul>
            {value.rows.map((one, at) => (
              <FindingLine key={at} finding={one} />
            ))}
          </ul>
          {value.total > value.rows.length && (
            <p className="more">
              <span className="soft">{texts.findings.showing(value.rows.length, value.total)}</span>
              <Button size="compact-sm" variant="default" onClick={() => setShown(shown + pageSize * 4)}>
                {texts.findings.more}
              </Button>
            </p>
          )}
        </>
      )}
    </div>
  );
}
