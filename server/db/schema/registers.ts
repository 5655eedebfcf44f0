import type { QuantityInput } from '@hypomet/core'
import { blob, index, integer, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import { campaign, limit, revision, test } from './tables'
import { at, id, json, version, words } from './columns'

/** Numbers that things are sized from. One that was replaced stays, and names what took its place. */
export const constant = sqliteTable('constant', {
  id: id(),
  campaignId: integer('campaign_id')
    .notNull()
    .references(() => campaign.id),
  subject: text('subject').notNull(),
  property: text('property').notNull(),
  entered: json<QuantityInput>('entered').notNull(),
  /** SI */
  value: real('value').notNull(),
  kind: text('kind').notNull(),
  origin: text('origin').notNull(),
  n: integer('n'),
  spread: json<QuantityInput | null>('spread'),
  source: text('source').notNull().default(''),
  note: text('note').notNull().default(''),
  replacedById: integer('replaced_by_id'),
  version: version(),
  createdAt: at('created_at').notNull(),
})

export const person = sqliteTable('person', {
  id: id(),
  name: text('name').notNull().unique(),
  role: text('role').notNull(),
  note: text('note').notNull().default(''),
  version: version(),
  createdAt: at('created_at').notNull(),
})

export const action = sqliteTable('action', {
  id: id(),
  campaignId: integer('campaign_id')
    .notNull()
    .references(() => campaign.id),
  question: text('question').notNull(),
  ownerId: integer('owner_id').references(() => person.id),
  due: at('due'),
  answer: text('answer').notNull().default(''),
  review: text('review').notNull().default(''),
  limitId: integer('limit_id').references(() => limit.id),
  testId: integer('test_id').references(() => test.id),
  revisionId: integer('revision_id').references(() => revision.id),
  version: version(),
  createdAt: at('created_at').notNull(),
})

export const lesson = sqliteTable('lesson', {
  id: id(),
  title: text('title').notNull(),
  happened: text('happened').notNull(),
  instead: text('instead').notNull(),
  families: words('families'),
  features: words('features'),
  fixtures: words('fixtures'),
  methods: words('methods'),
  words: words('words'),
  source: text('source').notNull().default(''),
  version: version(),
  createdAt: at('created_at').notNull(),
})

/** A lesson that fired on the plan of a test, why, and how it was answered. */
export const firing = sqliteTable(
  'firing',
  {
    id: id(),
    lessonId: integer('lesson_id')
      .notNull()
      .references(() => lesson.id),
    testId: integer('test_id')
      .notNull()
      .references(() => test.id),
    reasons: words('reasons'),
    answer: text('answer', { enum: ['applied', 'does-not-apply', 'risk-accepted'] }),
    reason: text('reason').notNull().default(''),
    by: text('by').notNull().default(''),
    answeredAt: at('answered_at'),
    version: version(),
    createdAt: at('created_at').notNull(),
  },
  t => [uniqueIndex('firing_once').on(t.lessonId, t.testId), index('firing_test').on(t.testId)],
)

export const task = sqliteTable('task', {
  id: id(),
  campaignId: integer('campaign_id')
    .notNull()
    .references(() => campaign.id),
  name: text('name').notNull(),
  /** Working days: most likely, at best, at worst. */
  days: real('days').notNull(),
  low: real('low'),
  high: real('high'),
  /** Names of tasks that come before. */
  after: words('after'),
  resource: text('resource').notNull().default(''),
  on: at('booked_on'),
  cost: real('cost'),
  testId: integer('test_id').references(() => test.id),
  version: version(),
  createdAt: at('created_at').notNull(),
})

/** A file that belongs to something: its bytes lie with the originals, its thumbnail here. */
export const attachment = sqliteTable(
  'attachment',
  {
    id: id(),
    entity: text('entity').notNull(),
    entityId: integer('entity_id').notNull(),
    /** What it shows, where that is asked for. */
    tag: text('tag').notNull().default(''),
    sha256: text('sha256').notNull(),
    name: text('name').notNull(),
    mime: text('mime').notNull(),
    size: integer('size').notNull(),
    thumbnail: blob('thumbnail', { mode: 'buffer' }),
    by: text('by').notNull(),
    createdAt: at('created_at').notNull(),
    removedAt: at('removed_at'),
  },
  t => [index('attachment_of').on(t.entity, t.entityId)],
)
