import { addDays, getISODay, parseISO } from 'date-fns'
import * as z from 'zod'
import { localDay } from '../../days'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { issue, plain } from '../../method/settings'
import { SeededRandom } from '../../statistics/random'
import { exact, given, tableOf } from '../answer'

const days = plain({ min: 0 })
const three = z.object({ low: days, mode: days, high: days }).refine(d => d.low <= d.mode && d.mode <= d.high, {
  message: 'Low, mode and high must not fall.',
  params: { code: 'setting-range' },
})
/** A number of working days, or at best, most likely and at worst: `{ low, mode, high }`, or the three in a row. */
const duration = z.unknown().transform((raw, ctx) => {
  if (raw === undefined) return issue(ctx, 'missing-setting', 'A duration is needed here.')
  const asked =
    Array.isArray(raw) && raw.length === 3
      ? { low: raw[0] as unknown, mode: raw[1] as unknown, high: raw[2] as unknown }
      : raw
  const parsed = (
    typeof asked === 'object' && asked !== null && ('low' in asked || 'mode' in asked) ? three : days
  ).safeParse(asked)
  if (parsed.success)
    return typeof parsed.data === 'number' ? { low: parsed.data, mode: parsed.data, high: parsed.data } : parsed.data
  ctx.issues.push(...(parsed.error.issues as never[]))
  return z.NEVER
})

const settings = z.object({
  start: z.iso.date().meta({ title: 'Start' }),
  tasks: z
    .array(
      z.object({
        id: z.string().min(1).meta({ title: 'Task' }),
        duration: duration.meta({ title: 'Working days: one, or three', kind: 'ratio' }),
        after: z.array(z.string()).default([]).meta({ title: 'After' }),
        resource: z.string().optional().meta({ title: 'Resource' }),
        cost: plain({ title: 'Cost', min: 0 }).default(0),
        on: z.iso.date().optional().meta({ title: 'Booked for' }),
      }),
    )
    .min(1)
    .meta({ title: 'Tasks' }),
  workdays: z
    .array(plain({ min: 1, max: 7, whole: true }))
    .min(1)
    .default([1, 2, 3, 4, 5])
    .meta({ title: 'Working days of the week, Monday 1' }),
  holidays: z.array(z.iso.date()).default([]).meta({ title: 'Holidays' }),
  due: z.iso.date().optional().meta({ title: 'Due' }),
  funds: plain({ title: 'Funds', min: 0 }).optional(),
  draws: plain({ title: 'Draws', min: 1, max: 1e7, whole: true }).default(100_000),
  seed: plain({ title: 'Seed', min: 0, whole: true }).default(1),
})
type Settings = z.output<typeof settings>
type Task = Settings['tasks'][number]

/** Sums of sixths are whole days where they are meant to be. */
const HAIR = 1e-9

/**
 * The order in which tasks are placed: repeatedly the first in the list whose predecessors are placed. @throws
 * HypometError `setting-range`, `cycle`
 */
function placingOrder(tasks: readonly Task[]): number[] {
  const index = new Map(tasks.map((t, i) => [t.id, i]))
  if (index.size < tasks.length)
    throw new HypometError('setting-range', 'Two tasks have the same name.', { path: 'settings.tasks' })
  tasks.forEach((t, i) =>
    t.after.forEach((a, k) => {
      if (!index.has(a))
        throw new HypometError('setting-range', `“${t.id}” follows “${a}”, which is no task.`, {
          path: `settings.tasks.${i}.after.${k}`,
        })
    }),
  )
  const order: number[] = []
  const placed = new Set<string>()
  while (order.length < tasks.length) {
    const next = tasks.findIndex(t => !placed.has(t.id) && t.after.every(a => placed.has(a)))
    if (next < 0) {
      const left = tasks.filter(t => !placed.has(t.id))
      throw new HypometError('cycle', `These tasks wait for one another: ${left.map(t => t.id).join(', ')}.`, {
        path: 'settings.tasks',
      })
    }
    placed.add(tasks[next]!.id)
    order.push(next)
  }
  return order
}

interface Placed {
  start: Float64Array
  finish: Float64Array
}

interface Link {
  after: number[]
  resourceBefore: number
  /** Working days from the start before which it is not booked. */
  earliest: number
}

/** Each task starts at the latest of its predecessors' finishes, of its resource's last task, and of its booking. */
function place(links: readonly Link[], order: readonly number[], durations: ArrayLike<number>, into: Placed): void {
  for (const i of order) {
    let at = links[i]!.earliest
    for (const a of links[i]!.after) if (into.finish[a]! > at) at = into.finish[a]!
    const before = links[i]!.resourceBefore
    if (before >= 0 && into.finish[before]! > at) at = into.finish[before]!
    into.start[i] = at
    into.finish[i] = at + durations[i]!
  }
}

/** Working days from the first on or after the start; the calendar grows as far as it is asked. */
function calendar({ start, workdays, holidays }: Settings): {
  dateOf: (index: number) => string
  countTo: (date: string) => number
  indexOn: (date: string) => number
} {
  const off = new Set(holidays)
  const dates: string[] = []
  let next = parseISO(start)
  const grow = () => {
    for (let guard = 0; guard < 4000; guard++) {
      const date = localDay(next)
      const weekday = getISODay(next)
      next = addDays(next, 1)
      if (workdays.includes(weekday) && !off.has(date)) return void dates.push(date)
    }
    throw new HypometError('setting-range', 'There is no working day in years: look at working days and holidays.', {
      path: 'settings.workdays',
    })
  }
  const reach = (index: number) => {
    while (dates.length <= index) grow()
  }
  return {
    dateOf: index => (reach(index), dates[index]!),
    countTo: date => {
      let n = 0
      for (reach(0); dates[n]! <= date; reach(n)) n++
      return n
    },
    indexOn: date => {
      let n = 0
      for (reach(0); dates[n]! < date; reach(n)) n++
      return n
    },
  }
}

function triangular(random: SeededRandom, { low, mode, high }: Task['duration']): number {
  if (high === low) return low
  const u = random.uniform()
  const turn = (mode - low) / (high - low)
  return u < turn
    ? low + Math.sqrt(u * (high - low) * (mode - low))
    : high - Math.sqrt((1 - u) * (high - low) * (high - mode))
}

/**
 * Dates of a campaign: tasks placed after those they wait for and one at a time on each resource, the critical chain,
 * the
 * float to the due date and the chance of it by drawing triangular durations, and cost by month against funds.
 *
 * @throws HypometError `cycle` for tasks that wait for one another, naming them
 * @source three-point mean (low + 4·mode + high)/6: Malcolm et al. (1959), Operations Research 7
 */
export const schedule = defineCalc({
  id: 'schedule',
  title: 'Schedule',
  purpose: 'Dates, critical chain, float, chance of the due date, cost by month',
  version: '1.1.0',
  settings,
  example: {
    start: '2026-03-02',
    due: '2026-04-10',
    funds: 9000,
    draws: 20000,
    tasks: [
      { id: 'design', duration: [3, 4, 8], cost: 1200 },
      { id: 'rig', duration: [5, 7, 12], after: ['design'], resource: 'shop', cost: 3000 },
      { id: 'article', duration: [4, 6, 11], after: ['design'], resource: 'shop', cost: 4100 },
      { id: 'test', duration: 2, after: ['rig', 'article'], cost: 900 },
    ],
  },
  calculate(s) {
    const { tasks, due, funds } = s
    const order = placingOrder(tasks)
    const index = new Map(tasks.map((t, i) => [t.id, i]))
    const lastOf = new Map<string, number>()
    const { dateOf, countTo, indexOn } = calendar(s)
    const links: Link[] = tasks.map(t => ({
      after: t.after.map(a => index.get(a)!),
      resourceBefore: -1,
      earliest: t.on === undefined ? 0 : indexOn(t.on),
    }))
    for (const i of order) {
      const { resource } = tasks[i]!
      if (resource === undefined) continue
      links[i]!.resourceBefore = lastOf.get(resource) ?? -1
      lastOf.set(resource, i)
    }
    const placed: Placed = { start: new Float64Array(tasks.length), finish: new Float64Array(tasks.length) }
    place(
      links,
      order,
      tasks.map(t => (t.duration.low + 4 * t.duration.mode + t.duration.high) / 6),
      placed,
    )
    const length = placed.finish.reduce((m, f) => Math.max(m, f), 0)
    const critical = criticalChain(links, placed, length)
    const rows = tasks.map((t, i) => ({
      id: t.id,
      start: placed.start[i]!,
      finish: placed.finish[i]!,
      startDate: dateOf(Math.floor(placed.start[i]! + HAIR)),
      finishDate: dateOf(Math.max(0, Math.ceil(placed.finish[i]! - HAIR) - 1)),
      critical: critical.has(i) ? 1 : 0,
    }))
    const available = due === undefined ? null : countTo(due)
    const float = available === null ? null : available - length
    const totalCost = tasks.reduce((sum, t) => sum + t.cost, 0)
    const unfunded = funds === undefined ? null : Math.max(0, totalCost - funds)
    return {
      results: given({
        duration: exact(length, 'd'),
        float: float === null ? null : exact(float, 'd'),
        probability: available === null ? null : exact(chanceWithin(s, links, order, available), '1'),
        totalCost: exact(totalCost, '1'),
        unfunded: unfunded === null ? null : exact(unfunded, '1'),
      }),
      tables: {
        tasks: tableOf(rows, { id: '1', start: 'd', finish: 'd', startDate: '1', finishDate: '1', critical: '1' }),
        costByMonth: tableOf(byMonth(tasks, rows), { month: '1', cost: '1' }),
      },
      warnings: [
        ...(float !== null && float < 0
          ? [{ code: 'late', message: `The mean plan ends ${(-float).toFixed(1)} working days after the due date.` }]
          : []),
        ...tasks.flatMap((t, i) =>
          t.on !== undefined && placed.start[i]! > links[i]!.earliest + HAIR
            ? [
                {
                  code: 'booking-missed',
                  message:
                    `“${t.id}” is booked for ${t.on}, and cannot begin before ${rows[i]!.startDate}: ` +
                    `${blocker(tasks, links[i]!, placed, i)}.`,
                },
              ]
            : [],
        ),
        ...(unfunded !== null && unfunded > 0
          ? [{ code: 'unfunded', message: `${unfunded} are not covered by the funds.` }]
          : []),
      ],
    }
  },
})

/** What keeps a booked task from its day. */
function blocker(tasks: readonly Task[], link: Link, { start, finish }: Placed, i: number): string {
  const waits = link.after.find(a => finish[a] === start[i])
  return waits === undefined
    ? `${tasks[i]!.resource} is still taken by “${tasks[link.resourceBefore]!.id}”`
    : `“${tasks[waits]!.id}” ends later`
}

/** Back from the last finish along what set each start. */
function criticalChain(links: readonly Link[], { start, finish }: Placed, length: number): Set<number> {
  const chain = new Set<number>()
  for (let at = finish.findIndex(f => f === length); at >= 0 && !chain.has(at);) {
    chain.add(at)
    const { after, resourceBefore } = links[at]!
    const from = [...after, ...(resourceBefore >= 0 ? [resourceBefore] : [])]
    at = from.find(i => finish[i] === start[at]) ?? -1
  }
  return chain
}

function chanceWithin(
  { tasks, draws, seed }: Settings,
  links: readonly Link[],
  order: readonly number[],
  available: number,
): number {
  const random = new SeededRandom(seed)
  const durations = new Float64Array(tasks.length)
  const placed: Placed = { start: new Float64Array(tasks.length), finish: new Float64Array(tasks.length) }
  let within = 0
  for (let d = 0; d < draws; d++) {
    for (let i = 0; i < tasks.length; i++) durations[i] = triangular(random, tasks[i]!.duration)
    place(links, order, durations, placed)
    let last = 0
    for (const f of placed.finish) if (f > last) last = f
    if (last <= available + HAIR) within++
  }
  return within / draws
}

function byMonth(tasks: readonly Task[], rows: readonly { finishDate: string }[]): { month: string; cost: number }[] {
  const costs = new Map<string, number>()
  rows.forEach((r, i) => {
    if (tasks[i]!.cost > 0)
      costs.set(r.finishDate.slice(0, 7), (costs.get(r.finishDate.slice(0, 7)) ?? 0) + tasks[i]!.cost)
  })
  return [...costs].sort(([a], [b]) => a.localeCompare(b)).map(([month, cost]) => ({ month, cost }))
}
