/**
 * Zest Tier: from suppliers' files to import files, checked, ordered, rehearsed.
 *
 * The stages, in the order of the way through; each is a pure function over plain data. What needs files or hashes gets them through
 * ports: `zest-tier/node` has those of Node.
 */

// What a person does, from a project's files to what the platform answers.
export { valueOf, type Result } from "./findings/result.js";
export type { ProjectPorts } from "./workflow/ports.js";
export {
  openProject,
  openTarget,
  readSourcesOf,
  targetNamed,
  withLedger,
  type GivenExport,
  type OpenedProject,
  type OpenedSources,
  type OpenedTarget,
  type TargetChoices,
} from "./workflow/open.js";
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
export { checkPlatform, type CheckedPlatform } from "./workflow/platform.js";
export { rawRows, type LookedAt } from "./workflow/raw-rows.js";
export type { ComparedExport } from "./workflow/compare.js";
export { pairsFileName, pairsToAnswer } from "./workflow/pairs.js";
export { translationsOf } from "./workflow/texts.js";

// The words.
export { Kinds, builtInKinds, type FieldSpec, type KindSpec, type Missing, type Dependency } from "./kind.js";
export {
  kindPhrase,
  known,
  languages,
  Phrase,
  phrase,
  pluralOf,
  say,
  type Language,
  type Text,
} from "./phrases/phrase.js";
export { money } from "./money.js";
export { formatLocation, type Location, type RecordName } from "./location.js";
export {
  describeFinding,
  finding,
  Findings,
  type Finding,
  type ReadonlyFindings,
  type FindingCode,
  type Severity,
} from "./findings/finding.js";
export { toSarif } from "./findings/sarif.js";
export { findingTable } from "./findings/finding-table.js";
export type { FilesPort, Hasher, Sha256 } from "./ports.js";

// Files to rows, and back.
export { decodeText } from "./formats/decode.js";
export { readCsv, type CsvOptions, type RowBatch } from "./formats/csv-read.js";
export { csvLine } from "./formats/csv-write.js";
export { openWorkbook, readSheet, type Workbook } from "./formats/workbook-read.js";
export { writeWorkbook, type SheetToWrite } from "./formats/workbook-write.js";
export { readXml } from "./formats/xml-read.js";
export { readJson } from "./formats/json-read.js";
export { readWholeZip, readZip } from "./formats/zip-read.js";
export { writeZip } from "./formats/zip-write.js";

// Rows to records, and back.
export { parseGiven, type Given } from "./given/yaml.js";
export { givenLayout } from "./layout/schema.js";
export { compileLayout } from "./layout/compile.js";
export { bindableFields, bindColumn, layoutLines, type LayoutLine } from "./layout/edit.js";
export type { Layout } from "./layout/layout.js";
export { SheetReader, type ReadCounts } from "./layout/read.js";
export {
  writeBlocks,
  writeRows,
  writeSheet,
  writtenHeaders,
  writtenKind,
  type WrittenRow,
  type WrittenSheet,
} from "./layout/write.js";
export { writeDocument } from "./layout/write-document.js";
export {
  asTargetView,
  Catalogue,
  targetsOf,
  type ReadonlyCatalogue,
  type ResolvedCatalogue,
  type TargetView,
} from "./catalogue/catalogue.js";

// A layout drafted from a sample.
export { draftLayout, type Draft, type DraftLine } from "./draft/draft.js";
export { draftTarget, type DraftedTarget, type Question } from "./draft/target.js";
export { lookAt } from "./draft/look.js";
export type { Sample } from "./draft/sample.js";

// Fields made of others.
export { compileRules, type DeriveRule } from "./derive/compile.js";
export { membersByRule } from "./derive/assortments.js";
export { deriveAfter, deriveBefore, type LookUpTable } from "./derive/derive.js";
export { givenRule } from "./derive/schema.js";
export { loadSlugs, type ToSlug } from "./derive/slug.js";
export { toEnding, withTax } from "./derive/amounts.js";

// Records to a catalogue, checked.
export { resolveReferences, type Resolution } from "./resolve/resolve.js";
export { BundleReader, type BundleSums, type Component } from "./catalogue/bundles.js";
export { combinationsOf, type Combinations } from "./catalogue/combinations.js";
export { plainPrice, sellables, sellableText, type Sellable } from "./catalogue/sellables.js";
export type { ReadonlyTable, Table } from "./catalogue/table.js";
export { CodeIndex } from "./catalogue/code-index.js";
export { checkCatalogue } from "./check/rules.js";
export { picturesNamed } from "./check/pictures.js";
export { barcodeProblem } from "./check/gtin.js";

// Targets.
export { parseTarget, type Target, type TargetFile } from "./target/target.js";
export { findUncarried, type Uncarried } from "./target/carries.js";
export { givenTarget } from "./target/schema.js";

// The order.
export {
  planImport,
  type Plan,
  type PlannedBlock,
  type PlannedFile,
  type Step,
  type ManualStep,
  type UploadStep,
} from "./plan/plan.js";
export type { AlreadyThere } from "./plan/placements.js";
export { drawPlan, planDiagram, type PlanBox, type PlanEdge, type PlanDiagram } from "./plan/draw.js";
export { recordsNamed, whyThere, type NeededRecord, type Reason } from "./plan/why.js";
export { findRounds } from "./plan/rounds.js";
export { verifyPlan } from "./plan/verify.js";
export { findSequence, type Placement } from "./plan/sequence.js";
export { needsGraph, orderByNeeds } from "./plan/graph.js";

// What the platform is known to hold.
export { Ledger, parseLedger, type LedgerLine } from "./ledger/ledger.js";
export { thereBy, withIds } from "./ledger/there.js";
export { collectIds, type Collected, type AcceptedRows, type ImportReport } from "./collect/collect.js";

// The upload.
export { buildUpload, stepsNow, type BuildInput, type Upload, type UploadSink } from "./build/build.js";
export { encodeFile, fileRows, type FileRows, type RowSelection } from "./build/write-file.js";
export { heldBackText, prepareBuild, stoppingErrors, type Prepared, type PrepareInput } from "./build/prepare.js";
export { uploadMark } from "./build/upload-mark.js";
export { heldCounts, heldRows, isHeldBack, canBeHeldBack, nothingHeldBack, type HeldBack } from "./build/hold-back.js";

// The proof.
export { rehearseThrough, type ThroughInput } from "./rehearse/through.js";
export { Registers } from "./rehearse/registers.js";
export {
  isOfRecords,
  playUpload,
  intendedByTarget,
  locateDifference,
  type LocatedDifference,
  type Verdict,
} from "./rehearse/rehearse.js";
export { Shop } from "./rehearse/store.js";
export { readbackSnapshot } from "./rehearse/readback.js";
export { compareSnapshots, pathKey, type Difference, type Snapshot } from "./rehearse/snapshot.js";
export { hiddenProducts, type Hidden } from "./rehearse/visible.js";
export type { Outcome, PlayedStep, RehearsedFile, RehearsedRow } from "./rehearse/outcome.js";

// What is there already.
export { exportFromFile, exportFromJson } from "./compare/held.js";
export {
  compareWithPlatform,
  digestsOf,
  recordStates,
  type ChangedBy,
  type ComparedRecord,
  type Comparison,
  type FieldChange,
  type RecordState,
} from "./compare/compare.js";
export { withDelivered, type DeliveredInput } from "./change/delivered.js";
export { changedByTexts, comparisonAsHtml, stateTexts, valueText } from "./compare/report-html.js";
export { pairRows, pairsOfRows, withPairs, type RepliedPair, type Pair } from "./compare/matching.js";

export { Changes, type ChangeInput } from "./change/changes.js";
export { redirectsNeeded, withRedirects, type Redirect } from "./change/redirects.js";
export { planBulkChange, type NamedBulkChange, type PlannedBulkChange } from "./change/bulk-change.js";
export { withMovedRecreated } from "./change/recreate.js";
export { noWishes, type ChangeWishes, type Policy } from "./change/policy.js";
export { fieldsLeftByBlank, laneKeys, platformHolding } from "./rehearse/start.js";

// Reshaping.
export { reshape, type Reshaped } from "./reshape/reshape.js";
export { givenOperation, type Operation, type Selection } from "./reshape/schema.js";
export { balance, measure, type BalanceLine, type Explained, type Measure } from "./reshape/balance.js";
export type { PlatformStep, WorkPorts } from "./reshape/work.js";

// A first import before the whole.
export { chooseTrial, exactUpTo, trialCatalogue, type Trial, type TrialProduct } from "./trial/trial.js";

// Where a cell came from, and where one went.
export {
  traceCells,
  traceSource,
  uploadRows,
  type CellOrigin,
  type TracedCell,
  type UploadRow,
} from "./trace/trace.js";

// Words for translators.
export {
  translationList,
  takeTranslations,
  type TranslationItem,
  type TranslationState,
} from "./translations/translation-list.js";
export { itemsOfSheet, translationSheet } from "./translations/sheet.js";
export { itemsOfXliff, translationXliff } from "./translations/xliff.js";

// A whole project.
export {
  loadProject,
  viewForTarget,
  readProject,
  type AppliedOperation,
  type Project,
  type ReadProject,
  type TargetWishes,
} from "./project/project.js";
export { addPictures, addSource, addTarget, draftProject, type DraftedSource } from "./project/draft.js";
export { calibrateLayout, type Calibration, type ColumnCalibration } from "./project/calibrate.js";
export { columnGuide, emptyWorkbook, guideMarkdown, type GuideRow } from "./project/guide.js";
export { readSource, readSources, type Progress, type Source } from "./project/sources.js";
export { givenProject } from "./project/schema.js";

// References: what docs/reference is made of.
export { knownMeaning, kindMeanings } from "./layout/meanings.js";
export { baseLayout, layoutReference, type ReferenceEntry, type ReferenceSection } from "./layout/reference.js";
export { baseProject, projectReference } from "./project/reference.js";
export { exampleFacts, expressionReference } from "./derive/reference.js";
