/**
 * Findings as SARIF 2.1.0 (OASIS Static Analysis Results Interchange Format), for editors, code hosts and build servers.
 *
 * The line and the column of a cell are the region where they are characters of a text file; a column of a sheet and the record are
 * logical locations. Source: https://docs.oasis-open.org/sarif/sarif/v2.1.0/sarif-v2.1.0.html
 */

import { fitting } from "../checked.js";
import type { Language } from "../phrases/phrase.js";
import type { Location } from "../location.js";
import { describeFinding, type Finding, type FindingCode } from "./finding.js";
import type { Severity } from "./definition.js";

const levels: Readonly<Record<Severity, string>> = { error: "error", warning: "warning", note: "note" };

/**
 * Findings as a SARIF log, for editors and code review.
 *
 * @param version of Zest Tier. @returns the log, ready for `JSON.stringify`.
 */
export function toSarif(findings: readonly Finding[], version: string, language: Language = "en"): object {
  const codes = [...new Set(findings.map((one) => one.code))].sort();
  return {
    $schema: "https://json.schemastore.org/sarif-2.1.0.json",
    version: "2.1.0",
    runs: [
      {
        tool: {
          driver: {
            name: "Zest Tier",
            version,
            language,
            rules: codes.map((code) => rule(code, findings, language)),
          },
        },
        columnKind: "utf16CodeUnits",
        results: findings.map((one) => result(one, codes.indexOf(one.code), language)),
      },
    ],
  };
}

function rule(code: FindingCode, findings: readonly Finding[], language: Language): object {
  const first = fitting(findings, (one) => one.code === code);
  return {
    id: code,
    help: { text: describeFinding(first, language).remedy },
    defaultConfiguration: { level: levels[first.severity] },
  };
}

function result(finding: Finding, ruleIndex: number, language: Language): object {
  return {
    ruleId: finding.code,
    ruleIndex,
    level: levels[finding.severity],
    message: { text: describeFinding(finding, language).message },
    ...(finding.at ? { locations: [location(finding.at)] } : {}),
    ...(finding.related.length > 0
      ? { relatedLocations: finding.related.map((one, at) => ({ id: at, ...location(one) })) }
      : {}),
  };
}

function location({ file, sheet, pointer, line, char, column, record }: Location): object {
  const logical = [
    ...(sheet === undefined ? [] : [{ name: sheet, kind: "sheet" }]),
    ...(pointer === undefined ? [] : [{ fullyQualifiedName: pointer, kind: "element" }]),
    ...(column === undefined ? [] : [{ name: column, kind: "column" }]),
    ...(record ? [{ fullyQualifiedName: `${record.kind} ${record.key}`, kind: "record" }] : []),
  ];
  return {
    physicalLocation: {
      artifactLocation: { uri: encodeURI(file.replaceAll("\\", "/")) },
      ...(line === undefined
        ? {}
        : { region: { startLine: line, ...(char === undefined ? {} : { startColumn: char }) } }),
    },
    ...(logical.length > 0 ? { logicalLocations: logical } : {}),
  };
}
