import { isWired, outputWords, type AbortOutput } from './abortOutputs'
import { formatQuantity, METRIC, type UnitPreference } from '../quantity/index'
import type { PlanView, SensorDue } from './planView'
import { channelKindOf } from './channelKinds'
import type { ChannelView } from './channels'
import { CONTROLS } from './hazardCatalogue'
import type { Plan } from './plan'
import { kindOfReading, wantedReading, type ReadingAsked, type ReadyLimits } from './readings'

export const READY_GROUPS = [
  'Plan',
  'Range',
  'Sensors',
  'Gauges',
  'Set-up',
  'Seal',
  'Cameras',
  'Photos',
  'Safety',
  'Sign-off',
] as const

export interface ReadyItem {
  /** Stable while the plan keeps its channels, so that a tick survives a change elsewhere. */
  key: string
  group: (typeof READY_GROUPS)[number]
  text: string
  why: string
  /** Settled by the plan itself: true or false. Undefined wants a person. */
  automatic?: boolean
  /** False where nobody can go ahead all the same. */
  canOverride?: boolean
  /** A stage of putting a gauge on. */
  gauge?: { role: string; stage: string; label: string }
  /** A reading that is typed in and judged; what it must be, in words. */
  reading?: ReadingAsked & { wanted: string }
  /** Wants a picture with this tag. */
  photo?: string
  /** An output of the abort, by its place in the plan, that is tried before it is ticked. */
  tries?: number
  /** Signed by somebody of this role, after all else. */
  sign?: string
}

export interface ReadyContext {
  plan: Plan
  view: PlanView
  sensors: Record<number, SensorDue>
  /** ISO date. */
  today: string
  /** The number of the released plan; null while it is a draft. */
  released: number | null
  /** Tags of the pictures that the test has. */
  photos: readonly string[]
  setUp: readonly { key: string; text: string; why: string }[]
  prefer?: UnitPreference
}

export const readyLimitsOf = (plan: Plan): ReadyLimits => ({ ...plan.ready, bits: plan.acquisition.bits })

/** The checklist that a plan generates; the caller keeps what has been ticked, read or overridden by whom. */
export function readyItems(c: ReadyContext): ReadyItem[] {
  const { view, plan, prefer = METRIC } = c
  const stops = view.findings.filter(f => f.severity === 'stop')
  const items: ReadyItem[] = [
    {
      key: 'released',
      group: 'Plan',
      text: c.released === null ? 'The plan is a draft: release it' : `Plan released, version ${c.released}`,
      why:
        stops.length > 0
          ? `${stops.length} of its findings stand against it: ${stops[0]!.message}`
          : 'A run climbs a plan that stands.',
      automatic: c.released !== null,
      canOverride: false,
    },
    ...channelItems(c),
    ...c.setUp.map(s => ({ ...s, group: 'Set-up' as const })),
    {
      key: 'ladder',
      group: 'Set-up',
      text:
        `Ladder of ${view.rungs.length} rungs to ` +
        `${formatQuantity(view.maxTarget, view.commanded.kind, { prefer })} read out to the crew`,
      why: 'Only planned rungs go on; anything else is a deviation with its load written down.',
    },
    ...plan.permits
      .filter(p => p.until !== '')
      .map((p, i): ReadyItem => ({
        key: `permit:${i}`,
        group: 'Set-up',
        text: `Permit “${p.name}”${p.number ? `, no. ${p.number}` : ''}: valid until ${p.until}`,
        why: 'A permit that has run out is none.',
        automatic: p.until >= c.today,
      })),
    ...sealItems(c),
    ...view.cameras.flatMap((cam, i): ReadyItem[] => [
      {
        key: `camera:${i}:picture`,
        group: 'Cameras',
        text:
          `${cam.name}: in focus, ${formatQuantity(cam.fieldWidth, 'length', { prefer, digits: 3 })} wide, ` +
          `marks in view`,
        why:
          cam.places.length > 0
            ? `It is to see: ${cam.places.map(p => p.name).join(', ')}.`
            : 'What is out of the picture is not known.',
      },
      {
        key: `camera:${i}:trigger`,
        group: 'Cameras',
        text:
          `${cam.name}: trigger tried, ${cam.preTime.toPrecision(2)} s before and ` +
          `${cam.postTime.toPrecision(2)} s after`,
        why: 'A break lasts less than a hand takes.',
      },
    ]),
    photoItem('support', 'Picture of the supports', c.photos),
    photoItem('tether', 'Picture of tethers and screens', c.photos),
    ...safetyItems(view, prefer),
    ...plan.onAbort.map(abortItem),
    ...plan.signOff.map((role): ReadyItem => ({
      key: `sign:${role}`,
      group: 'Sign-off',
      text: `Signed by ${roleWords(role)}`,
      why: 'Signed last, when nothing else is open.',
      sign: role,
    })),
  ]
  return items
}

/** An output that is changed is tried anew: its words are part of its key. */
const abortItem = (o: AbortOutput, i: number): ReadyItem => ({
  key: `abort:${outputWords(o)}`,
  group: 'Safety',
  text: isWired(o) ? `On abort, tried: ${outputWords(o)}` : `On abort, heard at the article: ${outputWords(o)}`,
  why: 'An abort that was never tried is a hope. The rig’s own stop comes first.',
  ...(isWired(o) ? { tries: i } : {}),
})

export const roleWords = (role: string): string =>
  role === 'test-lead' ? 'the test lead' : role === 'safety' ? 'who looks after safety' : `a ${role}`

const photoItem = (tag: string, text: string, photos: readonly string[]): ReadyItem => ({
  key: `photo:${tag}`,
  group: 'Photos',
  text,
  why: 'What it looked like is asked when it has gone wrong.',
  automatic: photos.includes(tag),
  photo: tag,
})

/** So many channels are looked at one by one; of more those without a check of their own are gone through by place. */
const ONE_BY_ONE = 1000
/** Channels that are named where several have the same against them. */
const NAMED = 3

function channelItems({ view, plan, sensors, today, prefer = METRIC }: ReadyContext): ReadyItem[] {
  const read = view.channels.filter(ch => ch.expression === null)
  const sensorOf = (ch: ChannelView) => (ch.sensorId === null ? undefined : sensors[ch.sensorId])
  const ofSensor = (ch: ChannelView) => sensorItems(ch, sensorOf(ch), today, prefer)
  const isAlone = (ch: ChannelView) =>
    read.length <= ONE_BY_ONE || ch.checkValue !== null || [view.commanded.role, view.read.role].includes(ch.role)
  const others = read.filter(ch => !isAlone(ch))
  return [
    ...read.filter(isAlone).flatMap(ch => [...ofSensor(ch), ...gaugeItems(ch, readyLimitsOf(plan), prefer)]),
    ...together(others.flatMap(ch => ofSensor(ch).map(item => ({ ch, item })))),
    ...byPlace(others),
  ]
}

/** What the plan settles by itself: one line for all channels of one state. What stands against a sensor is named. */
function together(all: readonly { ch: ChannelView; item: ReadyItem }[]): ReadyItem[] {
  const kinds = groupedBy(all, ({ ch, item }) => `${item.key.split(':', 1)[0]} ${ch.state} ${item.automatic}`)
  return [...kinds].flatMap(([key, list]): ReadyItem[] => {
    const [{ item }] = list as [{ ch: ChannelView; item: ReadyItem }]
    if (list.length === 1 || item.group !== 'Range') return list.map(l => l.item)
    const some = list.slice(0, NAMED).map(({ ch }) => ch.label)
    const named = `${some.join(', ')}${list.length > NAMED ? ' …' : ''}`
    const against = item.key.startsWith('sensor:') ? 'no sensor chosen' : 'what is expected against full scale'
    const text = `${list.length.toLocaleString('en')} channels: ${against} (${named})`
    return [{ ...item, key: `all:${key.replaceAll(' ', ':')}`, text }]
  })
}

/** Each stage of putting gauges on, place by place. */
function byPlace(read: readonly ChannelView[]): ReadyItem[] {
  const places = groupedBy(read, ch => ch.place || 'no place given')
  return [...places].flatMap(([place, list]) => {
    const stages = groupedBy(
      list.flatMap(ch => channelKindOf(ch.type, ch.kind).stages.map(stage => ({ ch, stage }))),
      ({ stage }) => stage.label,
    )
    return [...stages].map(([label, some]): ReadyItem => ({
      key: `place:${place}:${label}`,
      group: 'Gauges',
      text: `${place}, ${some.length} ${some.length === 1 ? 'channel' : 'channels'}: ${label.toLowerCase()}`,
      why: 'Gone through place by place; what was read of each is kept with the crew’s list.',
    }))
  })
}

function groupedBy<T>(list: readonly T[], keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>()
  for (const item of list) {
    const known = groups.get(keyOf(item))
    if (known) known.push(item)
    else groups.set(keyOf(item), [item])
  }
  return groups
}

function sensorItems(
  c: ChannelView,
  sensor: SensorDue | undefined,
  today: string,
  prefer: UnitPreference,
): ReadyItem[] {
  if (c.state === 'no-sensor')
    return [
      {
        key: `sensor:${c.role}`,
        group: 'Range',
        text: `${c.label}: no sensor chosen`,
        why: 'Without a sensor there is no range check and no uncertainty.',
        automatic: false,
      },
    ]
  const items: ReadyItem[] = []
  if (c.state === 'not-expected')
    items.push({
      key: `range:${c.role}`,
      group: 'Range',
      text: `${c.label}: nothing says how far it will go`,
      why: 'A range that is not checked is found out in the test.',
      automatic: false,
    })
  else
    items.push({
      key: `range:${c.role}`,
      group: 'Range',
      text:
        `${c.label}: ${formatQuantity(c.expectedPeak, c.kind, { prefer, digits: 3 })} expected on ` +
        `${formatQuantity(c.fullScale, c.kind, { prefer, digits: 3 })} full scale`,
      why: rangeReason(c),
      automatic: c.state === 'fits',
    })
  const due = sensor?.calibrationDue
  if (due && due < today)
    items.push({
      key: `due:${c.role}`,
      group: 'Sensors',
      text: `${sensor.name}: calibration was due on ${due}`,
      why: 'An overdue certificate does not carry the uncertainty that is claimed.',
      automatic: false,
    })
  if (sensor?.overRanged)
    items.push({
      key: `beyond:${c.role}`,
      group: 'Sensors',
      text:
        `${sensor.name}: read ${(100 * sensor.overRanged.share).toFixed(0)} % of its range in ` +
        `“${sensor.overRanged.test}”`,
      why: 'A sensor that was driven beyond its range may have shifted: calibrate it again before it counts.',
      automatic: false,
    })
  if (sensor?.state && sensor.state !== 'in-use')
    items.push({
      key: `state:${c.role}`,
      group: 'Sensors',
      text: `${sensor.name} is ${sensor.state}`,
      why: 'The inventory says not to rely on it.',
      automatic: false,
    })
  return items
}

function rangeReason({ state, utilisation }: ChannelView): string {
  const share = `${(utilisation! * 100).toFixed(0)} % of its range`
  if (state === 'low-range') return `Only ${share} is used: the reading drowns in the sensor’s own error.`
  if (state === 'near-full-scale') return `${share}: little room for a part that is better than expected.`
  return state === 'over-range' ? `${share}: it will clip.` : `${share} is used.`
}

/** The stages of putting a gauge on, with what is read at each. */
function gaugeItems(c: ChannelView, limits: ReadyLimits, prefer: UnitPreference): ReadyItem[] {
  return channelKindOf(c.type, c.kind).stages.map((s): ReadyItem => {
    const base: ReadyItem = {
      key: `gauge:${c.role}:${s.key}`,
      group: 'Gauges',
      text: `${c.label}: ${s.label.toLowerCase()}`,
      why: c.place ? `At ${c.place}.` : '',
      gauge: { role: c.role, stage: s.key, label: s.label },
    }
    // Without a planned check value there is nothing to hold a reading against: it is looked at and ticked.
    if (!s.check || (s.check === 'check-value' && c.checkValue === null))
      return { ...base, why: s.check ? 'Sign and size looked at: the plan has no check value.' : base.why }
    const asked: ReadingAsked = {
      check: s.check,
      kind: kindOfReading(s.check, c.kind),
      expected: s.check === 'check-value' ? c.checkValue : null,
    }
    return { ...base, reading: { ...asked, wanted: wantedReading(asked, limits, prefer) } }
  })
}

function sealItems({ plan, view, prefer = METRIC }: ReadyContext): ReadyItem[] {
  if (!view.hazards.some(h => h.id === 'pressure')) return []
  const asked: ReadingAsked = { check: 'leak', kind: 'sweepRate', expected: null }
  return [
    {
      key: 'seal:shut',
      group: 'Seal',
      text: 'Seals, plugs and hoses looked at, loosest connection known',
      why: 'A leak during a hold reads like creep.',
    },
    {
      key: 'seal:leak',
      group: 'Seal',
      text: 'Leak check: fall of pressure over a hold at low pressure',
      why: 'Typed in per cent an hour.',
      reading: { ...asked, wanted: wantedReading(asked, readyLimitsOf(plan), prefer) },
    },
  ]
}

function safetyItems(view: PlanView, prefer: UnitPreference): ReadyItem[] {
  const standoff = formatQuantity(view.standoff, 'length', { unit: 'm', digits: 2 })
  const energy =
    view.storedEnergy > 0
      ? `${formatQuantity(view.storedEnergy, 'energy', { prefer, digits: 3 })} are stored at the top rung.`
      : 'What lets go flies.'
  const controls = [...new Set(view.hazards.flatMap(h => h.controls))].filter(id => id !== 'distance')
  return [
    { key: 'standoff', group: 'Safety', text: `Nobody within ${standoff} while load is on`, why: energy },
    ...controls.map((id): ReadyItem => ({
      key: `control:${id}`,
      group: 'Safety',
      text: CONTROLS[id].ask,
      why: CONTROLS[id].why,
    })),
    ...view.hazards
      .filter(h => h.other.trim() !== '')
      .map((h): ReadyItem => ({ key: `control:${h.id}`, group: 'Safety', text: `${h.title}: ${h.other}`, why: h.why })),
    {
      key: 'stop',
      group: 'Safety',
      text: 'Who calls hold and stop is agreed, and the way down is clear',
      why: 'Abort needs no discussion.',
    },
  ]
}
