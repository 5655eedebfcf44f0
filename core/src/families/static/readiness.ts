import { formatQuantity, METRIC, type UnitPreference } from '../../quantity/index'
import { sensorItems } from '../../method/sensorItems'
import type { PlanView, ReadyItem, SensorDue } from '../../method/stages'

/** The checklist that a plan generates; the caller keeps what has been ticked or overridden by whom. */
export function readyItems(view: PlanView, sensors: Record<number, SensorDue>, today: string, prefer: UnitPreference = METRIC): ReadyItem[] {
  return [
    ...sensorItems(view, sensors, today, prefer),
    { key: 'fixture', group: 'Set-up', text: 'Root clamp and load introduction as drawn, loose fits written down', why: 'A fixture that breaks or pulls on the part says little of the article.' },
    { key: 'ladder', group: 'Set-up', text: `Ladder of ${view.rungs.length} rungs to ${formatQuantity(view.maxTarget, 'force', { prefer })} read out to the crew`, why: 'Only planned rungs go on; anything else is a deviation with its load written down.' },
    { key: 'standoff', group: 'Safety', text: `Nobody within ${formatQuantity(view.standoff, 'length', { unit: 'm', digits: 2 })} while load is on`, why: `${formatQuantity(view.storedEnergy, 'energy', { unit: 'J', digits: 3 })} are stored in the bent article at the top rung.` },
    { key: 'tethers', group: 'Safety', text: 'Pins, links and loose parts tethered, screen in place', why: 'What lets go flies.' },
    { key: 'stop', group: 'Safety', text: 'Who calls hold and stop is agreed, and the way down is clear', why: 'Abort needs no discussion.' },
  ]
}
