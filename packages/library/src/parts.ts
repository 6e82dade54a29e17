/**
 * The stages of Zest Tier, in the order of the way through, each usable on its own: a pure function over plain data. Whoever wants the
 * whole way takes `zest-tier`. What can fail answers with a `Result`; what cannot (readers of rows, checks) adds to the findings that it is
 * given.
 */

// The words.
export type { FieldSpec, KindSpec, Missing, Dependency } from "./kind.js";
export { builtInKinds } from "./built-in-kinds.js";
export { Kinds } from "./kinds.js";
export { known, phrase } from "./phrases/phrase.js";

// Files to rows, and back.
export { useFastPath } from "./fast-path.js";
export { decodeText } from "./formats/decode.js";
export { readCsv, type CsvOptions } from "./formats/csv-read.js";
export { csvLine } from "./formats/csv-write.js";
export { openWorkbook, readSheet, type Workbook } from "./formats/workbook-read.js";

export { readXml } from "./formats/xml-read.js";
export { parseXmlPath, textAt, type XmlNode, type XmlStep } from "./formats/xml-path.js";
export { readJson } from "./formats/json-read.js";
export { readZip } from "./formats/zip-read.js";

// Rows to records, and back.
export { parseGiven, type Given } from "./given/yaml.js";
export { compileLayout } from "./layout/compile/compile.js";

export { SheetReader } from "./layout/read/sheet.js";
export {
  writeBlocks,
  writeRows,
  writeSheet,
  writtenHeaders,
  writtenKind,
  type WrittenSheet,
} from "./layout/write/rows.js";
export { writeDocument } from "./layout/write/document.js";
export type { WrittenRow } from "./layout/write/context.js";
export { writeLayout } from "./layout/write/layout-file.js";
export { asTargetView, Catalogue } from "./catalogue/catalogue.js";

// A layout drafted from a sample.
export { draftLayout, draftTogether } from "./draft/draft.js";

export { lookAt } from "./draft/look.js";

// Fields made of others.
export { compileRules, type DeriveRule } from "./derive/compile.js";
export { membersByRule } from "./derive/assortments.js";
export { deriveAfter, deriveBefore } from "./derive/derive.js";
export type { LookUpTable } from "./derive/rule-run.js";
export { loadSlugs, type ToSlug } from "./derive/slug.js";
export { toEnding, withTax } from "./derive/amounts.js";

// Records to a catalogue, checked.
export { resolveReferences, type Resolution } from "./resolve/resolve.js";
export { type BundleSums, type Component } from "./catalogue/bundles.js";
export { type Combinations } from "./catalogue/combinations.js";
export { sellables, type Sellable } from "./catalogue/sellables.js";
export type { Table } from "./catalogue/table.js";
export type { TableOf } from "./catalogue/readonly-table.js";
export { CodeIndex } from "./catalogue/code-index.js";
export { checkCatalogue } from "./check/rules.js";
export { picturesNamed } from "./check/pictures.js";
export { barcodeProblem } from "./check/gtin.js";

// Targets.
export { parseTarget } from "./target/parse.js";
export { findUncarried } from "./target/carries.js";

// The order.
export { planImport } from "./plan/plan-import.js";
export type { AlreadyThere } from "./plan/placements.js";

export { recordsNamed, whyThere, type NeededRecord } from "./plan/why.js";
export { findRounds } from "./plan/rounds.js";
export { verifyPlan } from "./plan/verify.js";
export { findSequence, type Placement } from "./plan/sequence.js";
export { needsGraph, orderByNeeds } from "./plan/graph.js";

// What the platform is known to hold.
export { parseLedger } from "./ledger/ledger.js";
export { thereBy, withIds } from "./ledger/there.js";
export { collectIds } from "./collect/collect.js";
export { type ImportReport, type PictureReport } from "./collect/collecting.js";
export { type AcceptedRows } from "./collect/taken.js";

// The upload.
export { buildUpload, type BuildInput } from "./build/build.js";
export { encodeFile, fileRows, type FileRows, type RowSelection } from "./build/write-file.js";
export { prepareBuild, type PrepareInput } from "./build/prepare.js";
export { uploadMark } from "./build/upload-mark.js";
export { heldCounts, heldRows, isHeldBack, nothingHeldBack } from "./build/hold-back.js";

export { isOfRecords } from "./target/of-records.js";

// The proof.
export { rehearseThrough, type ThroughInput } from "./verdict/through.js";
export { playUpload } from "./verdict/rehearse.js";
export { SimulatedPlatform } from "./rehearse/platform/platform.js";
export type { Playable } from "./rehearse/playable.js";

// What is there already.
export { compareWithPlatform, type CompareInput } from "./compare/compare.js";
export { digestOf } from "./compare/delivered-fields.js";
export { withDelivered, type DeliveredInput } from "./change/delivered.js";

export { pairRows, pairsOfRows, withPairs } from "./compare/pairs.js";

export { Changes, type ChangeInput } from "./change/changes.js";
export { unfoldSingles, type Unfolded } from "./compare/unfold.js";
export { compareHeld } from "./verdict/compare-held.js";
export { redirectsNeeded, withRedirects, type Redirect } from "./change/redirects.js";
export { planBulkChange, type NamedBulkChange, type PlannedBulkChange } from "./change/bulk-change.js";
export { withMovedRecreated } from "./change/recreate.js";
export { noWishes, type Policy } from "./compare/policies.js";

// Reshaping.
export {
  reshape,
  reshapeByAll,
  type OperationAt,
  type OperationDone,
  type Reshaped,
  type ReshapedByAll,
} from "./reshape/reshape.js";
export { type Selection } from "./reshape/select.js";
export { fieldBalance, type ExplainedFields } from "./reshape/field-balance.js";
export { balance, measure, type Explained, type Measure } from "./reshape/balance.js";
export type { WorkPorts } from "./reshape/work.js";

// A first import before the whole.
export { chooseTrial, exactUpTo, trialCatalogue } from "./trial/trial.js";

// Where a cell came from, and where one went.
export { traceCells, traceSource, uploadRows } from "./trace/trace.js";

// Words for translators.
export { translationList, takeTranslations } from "./translations/translation-list.js";
export { itemsOfSheet } from "./translations/sheet.js";
export { itemsOfXliff } from "./translations/xliff.js";

// A whole project.
export { loadProject } from "./project/load.js";
export { viewForTarget, readProject } from "./project/project.js";

export { calibrateLayout } from "./project/calibrate.js";
export { columnGuide, emptyWorkbook, guideMarkdown } from "./project/guide.js";
export { readSource, readSources } from "./project/sources.js";

// References: what docs/reference is made of.
export { knownMeaning, kindMeanings } from "./layout/meanings.js";
export { baseLayout, layoutReference, type ReferenceEntry, type ReferenceSection } from "./layout/reference.js";
export { baseProject, projectReference } from "./project/reference.js";
export { baseTarget, targetReference } from "./target/reference.js";
export { exampleFacts, expressionReference } from "./derive/reference.js";

export {
  matchRecords,
  type Answer,
  type Correspondence,
  type MatchedBy,
  type MatchInput,
  type Unclear,
} from "./match/correspondence.js";
export { unclearFindings } from "./match/unclear.js";
export { identityOf, type Identity, type IdentityName } from "./match/identities.js";
export { compareCatalogues, type CompareCatalogues, type ComparedCatalogues } from "./compare/catalogues.js";
export type { CatalogueDifference, Matters, MattersInRow, Unmatched } from "./compare/differences.js";
export { recordsOfImports, type IsFor } from "./target/import-records.js";
export { coverageOf } from "./compare/told.js";
export { goalOf, type Goal, type GoalInput } from "./compare/goal.js";
export { placeOf } from "./compare/place.js";
export type { Comparing } from "./compare/comparing.js";
export { everything, type Coverage } from "./compare/coverage.js";
