import { formatQuantity, METRIC, type UnitPreference } from '../quantity/index'
import type { PlanView, ReadyItem, SensorDue } from './stages'

/** What the checklist asks of each channel of a plan: range, the sensor's own state, a check of zero and sign. */
export const sensorItems = (view: PlanView, sensors: Record<number, SensorDue>, today: string, prefer: UnitPreference = METRIC): ReadyItem[] =>
  view.channels.flatMap(c => channelItems(c, c.sensorId === null ? undefined : sensors[c.sensorId], today, prefer))

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
  if (sensor?.overRanged) items.push({ key: `beyond:${c.role}`, group: 'Sensors', text: `${sensor.name}: read ${(100 * sensor.overRanged.share).toFixed(0)} % of its range in “${sensor.overRanged.test}”`, why: 'A sensor that was driven beyond its range may have shifted: calibrate it again before it counts.', automatic: false })
  if (sensor && sensor.state && sensor.state !== 'in-use') items.push({ key: `state:${c.role}`, group: 'Sensors', text: `${sensor.name} is ${sensor.state}`, why: 'The inventory says not to rely on it.', automatic: false })
  return [...items, check]
}

function rangeReason(state: PlanView['channels'][number]['state'], utilisation: number): string {
  const share = `${(utilisation * 100).toFixed(0)} % of its range`
  if (state === 'low-range') return `Only ${share} is used: the reading drowns in the sensor’s own error.`
  if (state === 'near-full-scale') return `${share}: little room for a part that is better than expected.`
  return state === 'over-range' ? `${share}: it will clip.` : `${share} is used.`
}
