import { formatQuantity, METRIC, type UnitPreference } from '../../quantity/index'
import type { PlanView, ReadyItem, SensorDue } from '../../method/stages'

/** The checklist that a plan generates; the caller keeps what has been ticked or overridden by whom. */
export function readyItems(view: PlanView, sensors: Record<number, SensorDue>, today: string, prefer: UnitPreference = METRIC): ReadyItem[] {
  return [
    ...view.channels.flatMap(c => channelItems(c, c.sensorId === null ? undefined : sensors[c.sensorId], today, prefer)),
    { key: 'fixture', group: 'Set-up', text: 'Root clamp and load introduction as drawn, loose fits written down', why: 'A fixture that breaks or pulls on the part says little of the article.' },
    { key: 'ladder', group: 'Set-up', text: `Ladder of ${view.rungs.length} rungs to ${formatQuantity(view.maxTarget, 'force', { prefer })} read out to the crew`, why: 'Only planned rungs go on; anything else is a deviation with its load written down.' },
    { key: 'standoff', group: 'Safety', text: `Nobody within ${formatQuantity(view.standoff, 'length', { unit: 'm', digits: 2 })} while load is on`, why: `${formatQuantity(view.storedEnergy, 'energy', { unit: 'J', digits: 3 })} are stored in the bent article at the top rung.` },
    { key: 'tethers', group: 'Safety', text: 'Pins, links and loose parts tethered, screen in place', why: 'What lets go flies.' },
    { key: 'stop', group: 'Safety', text: 'Who calls hold and stop is agreed, and the way down is clear', why: 'Abort needs no discussion.' },
  ]
}

function channelItems(c: PlanView['channels'][number], sensor: SensorDue | undefined, today: string, prefer: UnitPreference): ReadyItem[] {
  const check: ReadyItem = { key: `check:${c.role}`, group: 'Sensors', text: `${c.label}: zero steady, shunt or known weight reads right`, why: 'A wrong sign or a dead channel is found now or never.' }
  if (c.state === 'no-sensor') return [{ key: `sensor:${c.role}`, group: 'Range', text: `${c.label}: no sensor chosen`, why: 'Without a sensor there is no range check and no uncertainty.', automatic: false }, check]
  const items: ReadyItem[] = [{
    key: `range:${c.role}`, group: 'Range',
    text: `${c.label}: ${formatQuantity(c.expectedPeak, c.kind, { prefer, digits: 3 })} expected on ${formatQuantity(c.fullScale, c.kind, { prefer, digits: 3 })} full scale`,
    why: rangeReason(c.state, c.utilisation!), automatic: c.state === 'fits',
  }]
  const due = sensor?.calibrationDue
  if (due && due < today) items.push({ key: `due:${c.role}`, group: 'Sensors', text: `${sensor.name}: calibration was due on ${due}`, why: 'An overdue certificate does not carry the uncertainty that is claimed.', automatic: false })
  return [...items, check]
}

function rangeReason(state: PlanView['channels'][number]['state'], utilisation: number): string {
  const share = `${(utilisation * 100).toFixed(0)} % of its range`
  if (state === 'low-range') return `Only ${share} is used: the reading drowns in the sensor’s own error.`
  if (state === 'near-full-scale') return `${share}: little room for a part that is better than expected.`
  return state === 'over-range' ? `${share}: it will clip.` : `${share} is used.`
}
