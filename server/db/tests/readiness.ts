import { HypometError, judgeReading, planningOf, readyItems, readyLimitsOf, localDay } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { person, readyMark } from '../schema'
import { sensorsDue, sensorsIn } from '../registers/inventory'
import { UNNAMED } from '../connection/unnamed'
import { TestSet, type Firing } from './testSet'
import { planInputsOf, viewed } from './viewedPlan'

/** The checklist of a test as it stands: what the plan asks, and what was ticked, read, overridden or signed. */
export async function readyItemsOf(db: Db, testId: number, on: string, set = new TestSet(db, { testId })) {
  const inputs = (await planInputsOf(set)).get(testId)
  const plan = inputs && viewed(inputs)
  if (!plan) return []
  const t = (await set.tests()).get(testId)!
  const used = new Set(sensorsIn(t))
  const marks = new Map(((await set.marks()).get(testId) ?? []).map(m => [m.key, m]))
  const asked = readyItems({
    ...plan,
    sensors: sensorsDue(
      (await set.sensors()).filter(s => used.has(s.id)),
      await set.readings(),
      testId,
    ),
    today: on,
    released: t.planState === 'released' ? t.planNumber : null,
    photos: [...((await set.photos()).get(testId) ?? [])],
    setUp: planningOf(t.family).setUp,
    prefer: inputs.options.prefer,
  })
  const items = asked.map(item => {
    const mark = marks.get(item.key)
    // What the plan settles by itself is done; an override of what it refuses stands only while it refuses.
    const state = item.automatic === true ? ('done' as const) : (mark?.state ?? ('open' as const))
    return {
      ...item,
      state,
      by: mark?.by ?? null,
      reason: mark?.reason ?? '',
      read: mark?.reading ?? null,
      at: mark?.at ?? null,
    }
  })
  return [...((await set.firings()).get(testId) ?? []).map(lessonItem), ...items]
}

export type ReadyRow = Awaited<ReturnType<typeof readyItemsOf>>[number]

export const isOpen = (i: { state: string }): boolean => i.state === 'open' || i.state === 'failed'

/** A lesson that fired stands first on the checklist until it is answered. */
const lessonItem = (f: Firing) => ({
  key: `lesson:${f.id}`,
  group: 'Lessons' as const,
  text: f.lesson.title,
  why: f.lesson.instead,
  automatic: undefined,
  read: null,
  state:
    f.answer === null ? ('open' as const) : f.answer === 'risk-accepted' ? ('overridden' as const) : ('done' as const),
  by: f.by || null,
  reason: f.reason,
  at: f.answeredAt,
})

export interface ReadyInput {
  key: string
  state: 'open' | 'done' | 'overridden'
  reason: string
  /** As typed at the rig. */
  reading?: string | undefined
  /** It has just been tried, and was taken. */
  isTried?: boolean
}

/**
 * Ticks, unticks, reads, signs or overrides an item of the checklist. A reading is judged: one that is not good leaves
 * the
 * item red. An override needs a name and a reason.
 *
 * @throws HypometError `settled`, `needs-reading`, `needs-override`, `missing-reason`, `not-last`, `wrong-role`
 */
export function markReady(database: Database, by: string, testId: number, input: ReadyInput) {
  return database.write(async db => {
    const items = await readyItemsOf(db, testId, localDay())
    const item = items.find(i => i.key === input.key)
    if (!item) throw notFound('checklist item', input.key)
    if (item.group === 'Lessons')
      throw new HypometError('settled', 'A lesson wants an answer, not a tick.', { path: 'key' })
    if (item.automatic === true)
      throw new HypometError('settled', 'The plan settles this item by itself.', { path: 'key' })
    if (item.canOverride === false) throw new HypometError('settled', `${item.text}.`, { path: 'key' })
    if (item.automatic === false && input.state === 'done')
      throw new HypometError(
        'needs-override',
        'This cannot be ticked off: change the plan, or override it with a reason.',
        { path: 'state' },
      )
    if ('tries' in item && item.tries !== undefined && input.state === 'done' && !input.isTried)
      throw new HypometError('needs-override', 'Try it, or override it with a reason.', { path: 'state' })
    if (input.state === 'overridden' && input.reason.trim() === '')
      throw new HypometError('missing-reason', 'An override needs a reason.', { path: 'reason' })
    const signing = item.sign !== undefined && input.state === 'done'
    if (signing)
      await assertMaySign(
        db,
        by,
        item.sign!,
        items.filter(i => isOpen(i) && !('sign' in i && i.sign)),
      )
    const read = input.state === 'done' && item.reading ? await judged(db, testId, item.reading, input.reading) : null
    const values = {
      testId,
      key: input.key,
      state: read && !read.good ? ('failed' as const) : input.state,
      reason: input.reason,
      reading: read,
      by,
      at: new Date().toISOString(),
    }
    await db
      .insert(readyMark)
      .values(values)
      .onConflictDoUpdate({ target: [readyMark.testId, readyMark.key], set: values })
    await audit(db, {
      who: by,
      what: `ready: ${values.state}`,
      entity: 'test',
      entityId: testId,
      before: { state: item.state, reading: item.read },
      after: { ...input, reading: read },
    })
    return { state: values.state, reading: read }
  })
}

async function judged(
  db: Db,
  testId: number,
  asked: NonNullable<Extract<ReadyRow, { reading?: unknown }>['reading']>,
  text: string | undefined,
) {
  if (!text?.trim())
    throw new HypometError('needs-reading', `Type what was read: ${asked.wanted}.`, { path: 'reading' })
  const inputs = (await planInputsOf(new TestSet(db, { testId }))).get(testId)!
  return judgeReading(text, asked, readyLimitsOf(viewed(inputs)!.plan), inputs.options.prefer)
}

/** Signing comes last, by somebody who has the role where anybody has it. */
async function assertMaySign(db: Db, by: string, role: string, open: readonly { text: string }[]): Promise<void> {
  if (by === UNNAMED)
    throw new HypometError('missing-name', 'Say who you are, top right: a signature has a name.', { path: 'key' })
  if (open.length > 0)
    throw new HypometError(
      'not-last',
      `Signing comes last: ${open.length} ${open.length === 1 ? 'item is' : 'items are'} still open, ${open[0]!.text}.`,
      { path: 'key' },
    )
  const people = await db.select().from(person)
  const holders = people.filter(p => p.role === role)
  if (holders.length > 0 && !holders.some(p => p.name === by))
    throw new HypometError(
      'wrong-role',
      `This is signed by ${holders.map(p => p.name).join(' or ')}; you are ${by || 'nobody yet'}.`,
      { path: 'key' },
    )
}

/** Items of the checklist that are not settled today. */
export const openItemsOf = async (db: Db, testId: number) => (await readyItemsOf(db, testId, localDay())).filter(isOpen)

/** Open items block the run. @throws HypometError `not-ready` */
export async function assertReady(db: Db, testId: number): Promise<void> {
  const open = await openItemsOf(db, testId)
  if (open.length > 0)
    throw new HypometError(
      'not-ready',
      `${open.length} ${open.length === 1 ? 'item is' : 'items are'} still open on the checklist: ` +
        `${open[0]!.text}${open.length > 1 ? ', …' : ''}.`,
    )
}

/** What was signed holds for the version that was signed. */
export async function clearSignatures(db: Db, testId: number): Promise<void> {
  for (const m of await db.select().from(readyMark).where(eq(readyMark.testId, testId)))
    if (m.key.startsWith('sign:')) await db.delete(readyMark).where(eq(readyMark.id, m.id))
}
