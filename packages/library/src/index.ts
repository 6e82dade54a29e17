/**
 * Zest Tier: from suppliers' files to import files, checked, ordered, rehearsed.
 *
 * What a person does, as functions, and the types that they need. Files, hashes and folders come in through ports: `zest-tier/node` and
 * `zest-tier/web` have them. The stages by themselves are in `zest-tier/parts`.
 */

// What a person does, from a project's files to what the platform answers.
export { failure, success, valueOf } from "./findings/result.js";
export { safeJson, visibleText } from "./safe-text.js";
export { capNames, capTable, type CapName, type Caps } from "./caps.js";
export { type Result } from "./findings/finding.js";
export type { ProjectPorts } from "./workflow/ports.js";
export {
  openProject,
  openTarget,
  readSourcesOf,
  targetNamed,
  withLedger,
  type OpenedProject,
  type OpenedSources,
  type OpenedTarget,
  type TargetChoices,
} from "./workflow/open.js";
export { type GivenExport } from "./workflow/compare.js";
export {
  build,
  planUpload,
  rehearse,
  type BuildChoices,
  type BuiltUpload,
  type PlanChoices,
  type PlannedUpload,
  type RehearseChoices,
} from "./workflow/build.js";
export { rehearseBulkChange } from "./workflow/bulk-change.js";
export { rehearseRollback } from "./workflow/rollback.js";
export {
  collect,
  exportFileName,
  reportFileName,
  type CollectChoices,
  type CollectedReports,
} from "./workflow/collect.js";
export {
  calibrate,
  calibrateDraft,
  draft,
  guideTo,
  layoutName,
  layoutOfText,
  openLayout,
  type Guide,
  type OpenedLayout,
} from "./workflow/layouts.js";
export { cellsAt, cellsFrom, leftOut, reasonsFor, rowsOf, type RecordReasons, type Traced } from "./workflow/trace.js";
export { checkPlatform } from "./workflow/platform.js";
export { recordsInLedger, withoutRecord, withRecordRestored, type NamedRecord } from "./workflow/ledger.js";
export { rawRows, type LookedAt } from "./workflow/raw-rows.js";
export type { ComparedExport } from "./workflow/compare.js";
export { pairsFileName, pairsFileText, pairsToAnswer } from "./workflow/pairs.js";
export { translationsOf } from "./workflow/texts.js";

// What is found, and what it is called.
export { kindPhrase, languages, Phrase, pluralOf, say, type Language, type Text } from "./phrases/phrase.js";
export { money } from "./money.js";
export { formatLocation, type Location, type RecordName } from "./location.js";
export type { Code, Header, Key, Lang, Row } from "./nominal.js";
export {
  describeFinding,
  finding,
  Findings,
  type Finding,
  type ReadonlyFindings,
  type FindingCode,
} from "./findings/finding.js";
export { type Severity } from "./findings/definition.js";
export { toSarif } from "./findings/sarif.js";
export { findingTable } from "./findings/finding-table.js";
export type { FilesPort, Hasher, Sha256 } from "./ports.js";

// A project, its layouts and targets; and how their files are edited.
export type { Kinds } from "./kinds.js";
export { bindableFields, bindColumn, layoutLines, type LayoutLine } from "./layout/edit.js";
export type { Layout } from "./layout/layout.js";
export type { ReadCounts } from "./layout/read/counts.js";
export type { Draft, DraftLine } from "./draft/draft.js";
export { draftTarget, type DraftedTarget, type Question } from "./draft/target.js";
export type { Sample } from "./draft/sample.js";
export type { Target, TargetExport, TargetFile } from "./target/target.js";
export type { Uncarried } from "./target/carries.js";
export type { Operation } from "./reshape/schema.js";
export type { BalanceLine } from "./reshape/balance.js";
export type { PlatformStep } from "./reshape/work.js";
export type { AppliedOperation, Project, ReadProject, TargetWishes } from "./project/project.js";
export { proposeProject } from "./workflow/new-project.js";
export type { NewProject, NewProjectInput, NewTarget } from "./workflow/project-proposal.js";
export type { NewSource } from "./workflow/new-sources.js";
export type { NeededRule } from "./workflow/needed-fields.js";
export { addPictures, addSource, addTarget, type DraftedSource } from "./project/draft.js";
/** How a file came back that was read with a layout and written again: cell by cell, and record by record. */
export type { Calibration, ColumnCalibration } from "./project/calibrate.js";
export type { FieldDifference, RecordsCalibration } from "./project/compare-records.js";
export type { GuideRow } from "./project/guide.js";
export type { Progress, Source } from "./project/sources.js";

// Reading a catalogue.
export { targetsOf, type ReadonlyCatalogue, type ResolvedCatalogue, type TargetView } from "./catalogue/catalogue.js";
export { BundleReader } from "./catalogue/bundles.js";
export { combinationsOf } from "./catalogue/combinations.js";
export { plainPrice, sellableText } from "./catalogue/sellables.js";
export type { ReadonlyTable } from "./catalogue/readonly-table.js";

// Plan, upload, rehearsal, comparison: what they give, and how it is shown.
export type { Plan, PlannedBlock, PlannedFile, Step, ManualStep, UploadStep } from "./plan/plan.js";
export { drawPlan, planDiagram, type PlanBox, type PlanEdge, type PlanDiagram } from "./plan/draw.js";
export type { Reason } from "./plan/why.js";
export { Ledger, type DeliveredDigest } from "./ledger/ledger.js";
export type { LedgerLine } from "./ledger/ledger-line.js";
export type { KnownRecord } from "./ledger/known-record.js";
export type { Collected } from "./collect/collect.js";
export { type Upload, type UploadSink } from "./build/build.js";
export { stepsNow } from "./plan/plan.js";
export { heldBackText, stoppingErrors, type Prepared } from "./build/prepare.js";
export { canBeHeldBack, type HeldBack } from "./build/hold-back.js";
export type { LocatedDifference } from "./verdict/compare-held.js";
export type { Verdict } from "./verdict/rehearse.js";
export type { HeldCatalogue } from "./rehearse/platform/held-catalogue.js";
export { readExports, type ExportFile } from "./workflow/exports.js";
export type { PlatformCatalogue } from "./compare/held.js";
export { reviewPlatform, type PlatformReview, type ReviewedField, type ReviewedRecord } from "./verdict/review.js";
export { plainRecords, type PlainEntry, type PlainRecord } from "./catalogue/plain-records.js";
export type { Hidden } from "./rehearse/visible.js";
export type { Outcome, PlayedStep, RehearsedFile, RehearsedRow } from "./rehearse/outcome.js";
export {
  recordStates,
  type ComparedRecord,
  type Comparison,
  type PlatformComparison,
  type RecordState,
} from "./compare/comparison.js";
export type { FieldChange } from "./compare/changed-fields.js";
export type { ChangedBy } from "./compare/delivered-fields.js";
export { changedByTexts, comparisonAsHtml, stateTexts, valueText } from "./compare/report-html.js";
export type { RepliedPair, Pair } from "./compare/pairs.js";
export type { CollectedField, CollectedRecord } from "./change/collected-records.js";
export type { Changes } from "./change/changes.js";
export type { ChangeWishes } from "./compare/policies.js";
export type { Trial, TrialProduct } from "./trial/trial.js";
export type { TracedCell, UploadRow } from "./trace/trace.js";
export type { CellOrigin } from "./layout/bindings/feed-kind.js";

// Texts for translators; small files of our own.
export type { RowBatch } from "./formats/row-batch.js";
export { writeWorkbook, type SheetToWrite } from "./formats/workbook-write.js";
export { readWholeZip } from "./formats/zip-read.js";
export { writeZip } from "./formats/zip-write.js";
export type { TranslationItem, TranslationState } from "./translations/translation-list.js";
export { translationSheet } from "./translations/sheet.js";
export { translationXliff } from "./translations/xliff.js";
