import {
  recordsInLedger,
  withLedger,
  withoutRecord,
  withRecordRestored,
  type KnownRecord,
  type NamedRecord,
} from "zest-tier";
import { listOption, textOption, UsageError, type CommandLine, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { columns, counted, cut, wrapped } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { withLockedSession, type Session } from "../session.js";

export const run: Run = (given, io) =>
  withLockedSession(given, io, async (opening) => {
    if (!opening.ok) {
      sayReport({ text: "", data: { command: "ledger", records: [] } }, opening.findings, given, io);
      return failureCode(opening.findings);
    }
    const session = await corrected(opening.session, given, io);
    if (!session) return 1;
    const asked = textOption(given, "record");
    const all = recordsInLedger(session.opened);
    const shown = asked === undefined ? all : all.filter(isNamed(recordOf(asked)));
    if (asked !== undefined && shown.length === 0)
      throw new UsageError(`nothing is known of "${asked}"`, "Write it as findings do: the kind, then the key.");
    const data = { command: "ledger", ...countsOf(all), records: shown.map(toJson) };
    const text =
      asked !== undefined
        ? renderRecord(shown[0]!, io)
        : given.options["all"] === true
          ? renderRecords(all, io)
          : renderKinds(all, io);
    sayAfterCheck({ text, data }, session.opened.findings, given, io);
    return 0;
  });

/** The session with what was asked to be unconfirmed and restored, saved. @returns undefined, with what is wrong shown, where that is not possible. */
async function corrected(session: Session, given: CommandLine, io: Io): Promise<Session | undefined> {
  let { opened } = session;
  for (const written of listOption(given, "unconfirm")) {
    const ledger = withoutRecord(opened, recordOf(written));
    if (!ledger)
      throw new UsageError(`nothing is known of "${written}"`, "Write it as findings do: the kind, then the key.");
    opened = withLedger(opened, ledger);
  }
  for (const written of listOption(given, "restore")) {
    const { ledger, problem } = withRecordRestored(opened, recordOf(written));
    if (problem) {
      const findings = opened.findings.copy();
      findings.add(problem);
      sayReport({ text: "", data: { command: "ledger", records: [] } }, findings, given, io);
      return undefined;
    }
    if (!ledger) throw new UsageError(`"${written}" was not unconfirmed`, "Nothing is there to be restored.");
    opened = withLedger(opened, ledger);
  }
  if (opened !== session.opened) await session.save(opened.ledger);
  return { ...session, opened };
}

/** `product smoker`: keys may have blanks. @throws UsageError for what is not written so. */
function recordOf(written: string): NamedRecord {
  const at = written.indexOf(" ");
  if (at < 1) throw new UsageError(`"${written}" is not a record`, 'Write the kind, then the key: "product smoker".');
  return { kind: written.slice(0, at), key: written.slice(at + 1) };
}

const isNamed =
  ({ kind, key }: NamedRecord) =>
  (one: KnownRecord): boolean =>
    one.kind === kind && one.key === key;

const countsOf = (records: readonly KnownRecord[]): object => ({
  known: records.filter(({ isUnconfirmed }) => !isUnconfirmed).length,
  ids: records.filter(({ id }) => id !== undefined).length,
  unconfirmed: records.filter(({ isUnconfirmed }) => isUnconfirmed).length,
});

const toJson = ({ id, isConfirmed, isUnconfirmed, ...record }: KnownRecord): object => ({
  ...record,
  id: id ?? null,
  state: stateOf({ isConfirmed, isUnconfirmed }),
});

const stateOf = ({ isConfirmed, isUnconfirmed }: Pick<KnownRecord, "isConfirmed" | "isUnconfirmed">): string =>
  isUnconfirmed ? "unconfirmed" : isConfirmed ? "confirmed" : "delivered";

function renderKinds(records: readonly KnownRecord[], io: Io): string {
  const colours = coloursOf(io);
  if (records.length === 0)
    return `${colours.bold("Nothing is known to be on the platform yet.")}\n  Next: ${colours.bold("zest-tier build")}, upload, then ${colours.bold("zest-tier collect")}\n`;
  const kinds = [...new Set(records.map(({ kind }) => kind))];
  const rows = kinds.map((kind) => {
    const own = records.filter((one) => one.kind === kind);
    const count = (isCounted: (one: KnownRecord) => boolean) => String(own.filter(isCounted).length);
    return [
      colours.bold(kind),
      count(({ isUnconfirmed }) => !isUnconfirmed),
      count(({ id }) => id !== undefined),
      count(({ fields }) => fields.length > 0),
      count(({ isUnconfirmed }) => isUnconfirmed),
    ];
  });
  const head = ["kind", "known", "with an id", "with fields delivered", "unconfirmed"].map((one) => colours.dim(one));
  return `${columns([head, ...rows], [1, 2, 3, 4])}\n  ${counted(records.length, "record")}. ${colours.dim("--all lists them, --record shows one")}\n`;
}

function renderRecords(records: readonly KnownRecord[], io: Io): string {
  const colours = coloursOf(io);
  return columns(
    records.map(({ kind, key, id, fields, ...one }) => [
      kind,
      colours.bold(cut(key, 48)),
      id === undefined ? colours.dim("no id") : `id ${id}`,
      stateOf(one),
      counted(fields.length, "field"),
    ]),
  );
}

function renderRecord({ kind, key, id, added, fields, ...one }: KnownRecord, io: Io): string {
  const colours = coloursOf(io);
  const list = (title: string, words: readonly string[]) =>
    words.length === 0
      ? ""
      : `\n  ${colours.dim(title)}\n    ${wrapped([...words].sort().join(", "), io.width - 4, "    ")}\n`;
  const head = `${kind} ${colours.bold(key)}  ${id === undefined ? colours.dim("no id") : `id ${id}`}  ${stateOf(one)}\n`;
  return `${head}${list("added by later files", added)}${list("fields delivered", fields)}`;
}
