import type {
  Answer,
  Candidate,
  Fact,
  DeclaredOwn,
  Fault,
  Figure,
  Finding,
  HealthFlag,
  JudgedReading,
  MethodOutput,
  PredictedCurve,
  QuantityInput,
  RigState,
  SizingRulesInput,
  Refusal,
  Strike,
} from '@hypomet/core'
import { blob, index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import type { ImportState } from '../../ingest/state'
import type { FileReading, ImportChannel } from '../../ingest/reading'
import type { Conversion } from '../records/conversion'
import { at, id, json, version, words } from './columns'

export interface ReductionInput {
  datasetId: number
  sha256: string
  /** s */
  clockOffset: number
  channels: Record<string, ImportChannel> | null
  /** Readings by hand that were struck out, with the right ones; left out where none were. */
  struck?: Strike[]
}

/** What happened in a run or a rehearsal. */
export interface LiveEvent {
  /** s on the run's clock */
  t: number
  kind: string
  rung: number | null
  value: number | null
  reading: number | null
  note: string
  by: string
  /** Of the rung, SI. */
  target?: number | null
  /** Channels that it speaks of, a blank between. */
  role?: string | null
}

/** How and where an article broke, as somebody who was there said. */
export interface Broke {
  mode: string
  place: string
  note: string
  /** Largest load read or heard, SI. */
  peak: number | null
}

/** Where a run's samples come from, beside the simulated rig. */
export type StreamWhere = { kind: 'tcp'; host: string; port: number } | { kind: 'file'; path: string }
export interface StreamSetUp {
  where: StreamWhere
  channels: Record<string, ImportChannel>
  /** As the lines were understood: cells of a line and names of its columns. */
  delimiter: string
  numbers?: 'point' | 'comma' | undefined
  names: string[]
}

/** A verdict with the limit as it was: one that has changed since no longer stands. */
export interface StoredVerdict {
  limitId: number
  verdict: 'pass' | 'undecided' | 'fail'
  reason: string
  against?: { quantity: string; comparator: string; value: number }
}

export const campaign = sqliteTable('campaign', {
  id: id(),
  slug: text('slug').notNull().unique(),
  title: text('title').notNull(),
  purpose: text('purpose').notNull().default(''),
  due: at('due'),
  system: text('system', { enum: ['metric', 'imperial'] })
    .notNull()
    .default('metric'),
  /** Chosen beside those of the system: “bar”, “g”, “torque: N·m”. */
  units: words('units'),
  /** How numbers are written: 1,234.5, 1.234,5, or each time as it stands; null until it is asked. */
  numbers: text('numbers', { enum: ['point', 'comma', 'plain'] }),
  rule: text('rule', { enum: ['guarded', 'simple'] })
    .notNull()
    .default('guarded'),
  convention: text('convention', { enum: ['margin-of-safety', 'reserve-factor', 'factor-of-safety'] })
    .notNull()
    .default('margin-of-safety'),
  startsOn: at('starts_on'),
  /** Weekdays that are worked, Monday 1. */
  workdays: text('workdays').notNull().default('12345'),
  holidays: words('holidays'),
  budget: real('budget'),
  currency: text('currency').notNull().default('EUR'),
  version: version(),
  createdAt: at('created_at').notNull(),
})

export const article = sqliteTable(
  'article',
  {
    id: id(),
    campaignId: integer('campaign_id')
      .notNull()
      .references(() => campaign.id),
    name: text('name').notNull(),
    family: text('family').notNull(),
    /** Results of its own, read from any channel of its tests. */
    own: json<DeclaredOwn[]>('own').notNull().default([]),
    note: text('note').notNull().default(''),
    /** What lessons look for. */
    features: words('features'),
    /** Ends, sections, seams and parts by the names that are said of it. */
    places: words('places'),
    /** Rules of sizing as entered: what can be bought or made, and what is wanted beyond the limits. */
    sizing: json<SizingRulesInput>('sizing').notNull().default({}),
    version: version(),
    createdAt: at('created_at').notNull(),
  },
  t => [index('article_campaign').on(t.campaignId)],
)

export const revision = sqliteTable(
  'revision',
  {
    id: id(),
    articleId: integer('article_id')
      .notNull()
      .references(() => article.id),
    parentId: integer('parent_id'),
    label: text('label').notNull(),
    changed: text('changed').notNull().default(''),
    why: text('why').notNull().default(''),
    /** Reduction on whose finding the change was made. */
    findingReductionId: integer('finding_reduction_id'),
    /** As weighed, kg. */
    mass: real('mass'),
    /** As entered; the family's article schema reads it. */
    properties: json<Record<string, unknown>>('properties').notNull(),
    /** Further properties, free but typed. */
    facts: json<Fact[]>('facts').notNull().default([]),
    /** Which constant a property was taken from, by the property's key. */
    constants: json<Record<string, number>>('constants').notNull().default({}),
    version: version(),
    createdAt: at('created_at').notNull(),
  },
  t => [uniqueIndex('revision_label').on(t.articleId, t.label)],
)

export const limit = sqliteTable(
  'design_limit',
  {
    id: id(),
    articleId: integer('article_id')
      .notNull()
      .references(() => article.id),
    name: text('name').notNull(),
    quantity: text('quantity').notNull(),
    comparator: text('comparator', { enum: ['atLeast', 'atMost'] }).notNull(),
    level: text('level', { enum: ['service', 'limit', 'ultimate', 'required-factor'] }).notNull(),
    /** As entered, and in SI. */
    entered: json<QuantityInput>('entered').notNull(),
    /** Where the wall stands: the entered value with the factor asked on top of it. */
    value: real('value').notNull(),
    factor: real('factor').notNull().default(1),
    convention: text('convention', { enum: ['', 'margin-of-safety', 'reserve-factor', 'factor-of-safety'] })
      .notNull()
      .default(''),
    source: text('source').notNull().default(''),
    verification: text('verification').notNull().default('test'),
    /** Holds for this revision and its descendants; null for all of the article. */
    fromRevisionId: integer('from_revision_id').references(() => revision.id),
    state: text('state', { enum: ['in-force', 'withdrawn'] })
      .notNull()
      .default('in-force'),
    version: version(),
    createdAt: at('created_at').notNull(),
  },
  t => [index('design_limit_article').on(t.articleId)],
)

export const sensor = sqliteTable('sensor', {
  id: id(),
  name: text('name').notNull(),
  kind: text('kind').notNull(),
  serial: text('serial').notNull().default(''),
  /** Full scale, calibration and budget items as entered; the register reads them to SI. */
  specification: json<Record<string, unknown>>('specification').notNull(),
  calibratedOn: at('calibrated_on'),
  calibrationDue: at('calibration_due'),
  place: text('place').notNull().default(''),
  state: text('state', { enum: ['in-use', 'suspect', 'retired'] })
    .notNull()
    .default('in-use'),
  note: text('note').notNull().default(''),
  version: version(),
  createdAt: at('created_at').notNull(),
})

export const test = sqliteTable(
  'test',
  {
    id: id(),
    revisionId: integer('revision_id')
      .notNull()
      .references(() => revision.id),
    family: text('family').notNull(),
    title: text('title').notNull(),
    fixture: text('fixture').notNull().default(''),
    /** How the load is brought in, in words. */
    method: text('method').notNull().default(''),
    notes: text('notes').notNull().default(''),
    plannedOn: at('planned_on'),
    /** In the campaign's currency. */
    cost: real('cost'),
    /** As entered; the family's plan schema reads it. */
    plan: json<Record<string, unknown>>('plan'),
    /** A released plan changes only by a new version with a reason. */
    planState: text('plan_state', { enum: ['draft', 'released'] })
      .notNull()
      .default('draft'),
    planNumber: integer('plan_number').notNull().default(1),
    /** Why this version was begun. */
    planReason: text('plan_reason').notNull().default(''),
    /** Counts its savings, so that of two people who save it the later is told. */
    planEdit: integer('plan_edit').notNull().default(0),
    version: version(),
    createdAt: at('created_at').notNull(),
  },
  t => [index('test_revision').on(t.revisionId)],
)

/**
 * What overviews say of a plan, as it was last worked out; worked out anew where the fingerprint of its inputs differs.
 */
export const planDigest = sqliteTable('plan_digest', {
  testId: integer('test_id').primaryKey(),
  fingerprint: text('fingerprint').notNull(),
  digest: json<{ rungs: number; stops: number; asked: { key: string; settled: boolean }[] } | null>('digest'),
})

/** Plans as they were released. */
export const planVersion = sqliteTable(
  'plan_version',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    number: integer('number').notNull(),
    plan: json<Record<string, unknown>>('plan').notNull(),
    reason: text('reason').notNull().default(''),
    /** What was known against it. */
    findings: json<Finding[]>('findings').notNull(),
    by: text('by').notNull(),
    at: at('at').notNull(),
  },
  t => [uniqueIndex('plan_version_number').on(t.testId, t.number)],
)

export const prediction = sqliteTable(
  'prediction',
  {
    id: id(),
    revisionId: integer('revision_id')
      .notNull()
      .references(() => revision.id),
    /** Null while it holds for every test of the revision. */
    testId: integer('test_id').references(() => test.id),
    /** Key of a result, or of one of the family's curves. */
    quantity: text('quantity').notNull(),
    entered: json<QuantityInput | null>('entered'),
    band: json<QuantityInput | null>('band'),
    /** SI; null for a curve. */
    value: real('value'),
    u: real('u'),
    k: real('k').notNull().default(2),
    bound: json<MethodOutput['results'][string]['bound']>('bound').notNull(),
    curve: json<PredictedCurve | null>('curve'),
    method: text('method').notNull().default('calculation'),
    source: text('source').notNull(),
    place: text('place').notNull().default(''),
    mode: text('mode').notNull().default(''),
    /** Which of several measured curves it speaks of; empty where there is one. */
    config: text('config').notNull().default(''),
    note: text('note').notNull().default(''),
    /** The prediction for the revision that this one, locked for a test, repeats. */
    copyOfId: integer('copy_of_id'),
    version: version(),
    createdAt: at('created_at').notNull(),
    /** Set when the first sample of the test comes in; from then on it stands. */
    lockedAt: at('locked_at'),
  },
  t => [index('prediction_revision').on(t.revisionId), index('prediction_test').on(t.testId)],
)

export const readyMark = sqliteTable(
  'ready_mark',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    key: text('key').notNull(),
    state: text('state', { enum: ['open', 'done', 'failed', 'overridden'] }).notNull(),
    by: text('by').notNull(),
    reason: text('reason').notNull().default(''),
    /** What was read at it, as typed and as judged. */
    reading: json<JudgedReading | null>('reading'),
    at: at('at').notNull(),
  },
  t => [uniqueIndex('ready_mark_key').on(t.testId, t.key)],
)

export const dataset = sqliteTable(
  'dataset',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    source: text('source', { enum: ['file', 'rig', 'stream', 'crew'] }).notNull(),
    name: text('name').notNull(),
    status: text('status', { enum: ['importing', 'recording', 'ready'] }).notNull(),
    /** Of the original file's bytes, or of what the rig recorded. */
    sha256: text('sha256'),
    channelMap: json<Record<string, ImportChannel>>('channel_map'),
    /** What a person said of the file beyond that. */
    reading: json<FileReading>('reading'),
    /** Another logger's record of the same test, to whose clock this one's is set; null for the test's main record. */
    joinsId: integer('joins_id'),
    warnings: json<{ code: string; message: string }[]>('warnings').notNull(),
    rows: integer('rows').notNull().default(0),
    /** s, added to the file's own time. */
    clockOffset: real('clock_offset').notNull().default(0),
    /** How far an import has come; null when there is nothing left of it to do. */
    importState: json<ImportState | null>('import_state'),
    createdAt: at('created_at').notNull(),
  },
  t => [index('dataset_sha').on(t.sha256), index('dataset_test').on(t.testId)],
)

export const channel = sqliteTable(
  'channel',
  {
    id: id(),
    datasetId: integer('dataset_id')
      .notNull()
      .references(() => dataset.id),
    /** What a reduction knows it by; a column that no role was mapped to goes by its own name. */
    role: text('role').notNull(),
    /** As in the file. */
    name: text('name').notNull().default(''),
    /** What expressions call it, whatever its role; null where that is its role. */
    symbol: text('symbol'),
    /** Whether reductions read it. */
    used: integer('used', { mode: 'boolean' }).notNull().default(true),
    /** SI unit of what is read out; empty where the file's own is not known. */
    unit: text('unit').notNull(),
    /** From the stored numbers to SI; null where they are SI. */
    conversion: json<Conversion | null>('conversion'),
    sensorId: integer('sensor_id'),
    /** Of a column of words: what its numbers stand for. */
    labels: json<string[] | null>('labels'),
    /** What it is derived by, from the symbols of other channels; null for what was read. */
    expression: text('expression'),
    /** Over the whole record, as stored; null where there is no number. */
    min: real('min'),
    max: real('max'),
    gaps: integer('gaps').notNull().default(0),
    /** What is wrong with it, as far as the record shows; null until looked at. */
    health: json<HealthFlag[] | null>('health'),
  },
  t => [uniqueIndex('channel_role').on(t.datasetId, t.role), index('channel_sensor').on(t.sensorId)],
)

/** Two channels of a record that ought to agree, and by how much they may differ, SI. */
export const channelPair = sqliteTable('channel_pair', {
  id: id(),
  datasetId: integer('dataset_id')
    .notNull()
    .references(() => dataset.id),
  a: integer('a')
    .notNull()
    .references(() => channel.id),
  b: integer('b')
    .notNull()
    .references(() => channel.id),
  tolerance: real('tolerance').notNull(),
  by: text('by').notNull(),
  createdAt: at('created_at').notNull(),
})

/** Samples as the file holds them, chunk by chunk; time is a channel of its own. See chunkCodec.ts. */
export const chunk = sqliteTable(
  'chunk',
  {
    channelId: integer('channel_id')
      .notNull()
      .references(() => channel.id),
    seq: integer('seq').notNull(),
    /** Number of its first sample. */
    start: integer('start').notNull(),
    count: integer('count').notNull(),
    gaps: integer('gaps').notNull(),
    min: real('min'),
    max: real('max'),
    mean: real('mean'),
    /**
     * Minimum and maximum of each 64 samples. They stand before the samples, which a drawing then need not pass over.
     */
    extremes: blob('extremes', { mode: 'buffer' }).notNull(),
    data: blob('data', { mode: 'buffer' }).notNull(),
    /** CRC-32 of the samples and of the extremes as stored; null where an earlier build stored them. */
    sum: integer('sum'),
  },
  t => [primaryKey({ columns: [t.channelId, t.seq] })],
)

export const run = sqliteTable(
  'run',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    datasetId: integer('dataset_id')
      .notNull()
      .references(() => dataset.id),
    source: text('source', { enum: ['file', 'rig', 'stream', 'crew'] }).notNull(),
    /** Of a live stream. */
    setUp: json<StreamSetUp | null>('set_up'),
    /** Who has the controls, while it goes on. */
    controls: text('controls').notNull().default(''),
    status: text('status', { enum: ['running', 'interrupted', 'closed'] }).notNull(),
    pace: real('pace').notNull().default(1),
    seed: integer('seed').notNull().default(0),
    /** The rig's memory after its last recorded block. */
    rigState: json<RigState>('rig_state'),
    end: text('end'),
    /** What was seen when the article broke, as said then. */
    broke: json<Broke | null>('broke'),
    by: text('by').notNull(),
    startedAt: at('started_at').notNull(),
    endedAt: at('ended_at'),
  },
  t => [index('run_test').on(t.testId), index('run_dataset').on(t.datasetId)],
)

/**
 * A run against the simulated rig with surprises, of which only what happened is kept: no sample, no lock, no record.
 */
export const rehearsal = sqliteTable(
  'rehearsal',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    pace: real('pace').notNull(),
    seed: integer('seed').notNull(),
    faults: json<Fault[]>('faults').notNull(),
    events: json<LiveEvent[]>('events').notNull().default([]),
    by: text('by').notNull(),
    startedAt: at('started_at').notNull(),
    /** Null while it goes on. */
    endedAt: at('ended_at'),
    /** s on its clock, and how it ended. */
    endedT: real('ended_t'),
    end: text('end'),
  },
  t => [index('rehearsal_test').on(t.testId)],
)

export const runEvent = sqliteTable(
  'run_event',
  {
    id: id(),
    runId: integer('run_id')
      .notNull()
      .references(() => run.id),
    /** s on the run's clock */
    t: real('t').notNull(),
    kind: text('kind').notNull(),
    rung: integer('rung'),
    value: real('value'),
    reading: real('reading'),
    note: text('note').notNull().default(''),
    by: text('by').notNull(),
    target: real('target'),
    role: text('role'),
    at: at('at').notNull(),
  },
  t => [index('run_event_run').on(t.runId)],
)

/**
 * Samples as they came in, all channels of a record one after the other, Float64. Each is folded into chunks of the
 * channels
 * by and by; what a channel's chunks hold already counts no more here.
 */
export const runBlock = sqliteTable(
  'run_block',
  {
    datasetId: integer('dataset_id')
      .notNull()
      .references(() => dataset.id),
    start: integer('start').notNull(),
    count: integer('count').notNull(),
    data: blob('data', { mode: 'buffer' }).notNull(),
  },
  t => [primaryKey({ columns: [t.datasetId, t.start] })],
)

export const reduction = sqliteTable(
  'reduction',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    datasetId: integer('dataset_id')
      .notNull()
      .references(() => dataset.id),
    family: text('family').notNull(),
    methodVersion: text('method_version').notNull(),
    softwareVersion: text('software_version').notNull(),
    settings: json<Record<string, unknown>>('settings').notNull(),
    sensors: json<Record<string, unknown>>('sensors').notNull(),
    inputSha256: text('input_sha256').notNull(),
    /** The records that were read, as they were read: hash, clock, channels. */
    inputs: json<ReductionInput[] | null>('inputs'),
    output: json<MethodOutput>('output').notNull(),
    outputSha256: text('output_sha256').notNull(),
    figures: json<Record<string, Figure>>('figures').notNull(),
    supersedesId: integer('supersedes_id'),
    by: text('by').notNull(),
    createdAt: at('created_at').notNull(),
  },
  t => [index('reduction_test').on(t.testId)],
)

export const judgement = sqliteTable(
  'judgement',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    reductionId: integer('reduction_id')
      .notNull()
      .references(() => reduction.id),
    validity: text('validity', { enum: ['valid', 'valid-with-remarks', 'invalid'] }).notNull(),
    cause: text('cause', {
      enum: ['none', 'article', 'fixture', 'instrumentation', 'procedure', 'manufacture'],
    }).notNull(),
    place: text('place').notNull().default(''),
    mode: text('mode').notNull().default(''),
    note: text('note').notNull().default(''),
    /** To the questions of validity, by their keys. */
    answers: json<Record<string, Answer>>('answers').notNull().default({}),
    verdicts: json<StoredVerdict[]>('verdicts').notNull(),
    by: text('by').notNull(),
    createdAt: at('created_at').notNull(),
  },
  t => [index('judgement_test').on(t.testId)],
)

/** What was chosen after a test, why, and what else stood there. */
export const decision = sqliteTable(
  'decision',
  {
    id: id(),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    reductionId: integer('reduction_id')
      .notNull()
      .references(() => reduction.id),
    /** The revision that it made; it may have been taken back since. */
    revisionId: integer('revision_id').notNull(),
    chosen: json<Candidate>('chosen').notNull(),
    alternatives: json<Candidate[]>('alternatives').notNull(),
    /** What the candidates were weighed by. */
    weights: json<Record<string, number>>('weights').notNull().default({}),
    reasons: text('reasons').notNull().default(''),
    by: text('by').notNull(),
    createdAt: at('created_at').notNull(),
  },
  t => [index('decision_test').on(t.testId), index('decision_revision').on(t.revisionId)],
)

export const job = sqliteTable('job', {
  id: id(),
  kind: text('kind').notNull(),
  status: text('status', { enum: ['waiting', 'running', 'done', 'failed', 'cancelled'] }).notNull(),
  progress: real('progress').notNull().default(0),
  doing: text('doing').notNull().default(''),
  payload: json<unknown>('payload').notNull(),
  result: json<unknown>('result'),
  error: json<Refusal>('error'),
  createdAt: at('created_at').notNull(),
})

/** Who did what, each entry chained to the one before by its hash. */
export const audit = sqliteTable(
  'audit',
  {
    id: id(),
    at: at('at').notNull(),
    who: text('who').notNull(),
    what: text('what').notNull(),
    entity: text('entity').notNull(),
    entityId: integer('entity_id'),
    before: json<unknown>('before'),
    after: json<unknown>('after'),
    /** What was done in one go, and is undone in one. */
    step: text('step'),
    previousHash: text('previous_hash').notNull(),
    hash: text('hash').notNull(),
  },
  t => [index('audit_entity').on(t.entity, t.entityId), index('audit_step').on(t.step)],
)

/** How often a table was changed, counted by triggers: of the tables that overviews read whole. */
export const tableVersion = sqliteTable('table_version', {
  name: text('name').primaryKey(),
  version: integer('version').notNull(),
})
