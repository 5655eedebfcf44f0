import { HypometError } from '../error'
import type { Setup } from '../method/setup'
import type { Row } from './field'
import { defineRegister } from './register'

const days = { type: 'number', min: 0, max: 2000 } as const

/**
 * What a campaign has to do: how long it takes, what it waits for, who or which rig does it, when that is booked, what
 * it costs.
 */
export const taskRegister = defineRegister({
  id: 'task',
  one: 'Task',
  many: 'Tasks',
  perCampaign: true,
  name: 'name',
  fields: [
    { key: 'name', title: 'Task', type: 'text', required: true },
    { key: 'days', title: 'Days', ...days, required: true, hint: 'Working days, most likely' },
    { key: 'low', title: 'At best', ...days },
    { key: 'high', title: 'At worst', ...days },
    { key: 'after', title: 'After', type: 'words', hint: 'Tasks that must be done before' },
    { key: 'resource', title: 'Rig or person', type: 'text', hint: 'Does one task at a time' },
    { key: 'on', title: 'Booked for', type: 'date', hint: 'Does not begin before' },
    { key: 'cost', title: 'Cost', type: 'number', min: 0, money: true },
    { key: 'testId', title: 'Test', type: 'ref', to: 'test' },
  ],
  check(row) {
    const { low, days: mode, high } = row as { low: number | null; days: number; high: number | null }
    if (low !== null && low > mode)
      throw new HypometError('setting-range', 'At best it takes no longer than it most likely does.', { path: 'low' })
    if (high !== null && high < mode)
      throw new HypometError('setting-range', 'At worst it takes no less than it most likely does.', { path: 'high' })
  },
})

export interface ScheduleFrame {
  start: string
  due: string | null
  funds: number | null
  workdays: number[]
  holidays: string[]
}

/** The schedule calculation's set-up for a campaign's tasks. */
export function scheduleSetup(
  tasks: readonly Row[],
  { start, due, funds, workdays, holidays }: ScheduleFrame,
  draws: number,
): Setup {
  return {
    calc: 'schedule',
    settings: {
      start,
      workdays,
      holidays,
      draws,
      seed: 1,
      ...(due ? { due } : {}),
      ...(funds === null ? {} : { funds }),
      tasks: tasks.map(t => ({
        id: t['name'],
        duration: { low: t['low'] ?? t['days'], mode: t['days'], high: t['high'] ?? t['days'] },
        after: t['after'],
        ...(t['resource'] ? { resource: t['resource'] } : {}),
        ...(t['cost'] === null ? {} : { cost: t['cost'] }),
        ...(t['on'] ? { on: t['on'] } : {}),
      })),
    },
  } as Setup
}
