import { formatQuantity, METRIC, type Kind, type UnitPreference } from '../quantity/index'
import type { PlanView, RungView } from './planView'
import type { SensorSpecification } from '../uncertainty/sensor'
import { dataFindings, dataView } from './acquisition'
import { cameraFindings, cameraViews } from './cameras'
import { capacityFindings } from './capacity'
import { channelFindings, channelViews, type PlanChannel } from './channels'
import { designFindings, type DesignFrom } from './designFrom'
import { exampleFindings } from './examples'
import { hazardFindings, hazardViews } from './hazards'
import { loadings } from './loading/index'
import { openFieldsOf, openView } from './loading/loading'
import type { ArticleModel, Loaded, PointLoad } from './model'
import { movementFindings, movementView } from './movement'
import { topOf, type NeededChannel, type Plan } from './plan'
import { restraintFindings, restraintView } from './restraint'
import { similitudeFindings, similitudeRows } from './similar'
import { watchFindings } from './watch'

export interface PlanFrame {
  model: ArticleModel | null
  needed: readonly NeededChannel[]
  /** Role and kind of what is read against the ladder; null where only what is commanded is read. */
  read: { role: string; kind: Kind } | null
  /** Where that is read along a span, m. */
  readAt: number | null
  /** Target that limits are read at, SI; the highest rung where the family has none. */
  design: number | null
  /** Which limit that was derived from, until somebody says that it is right. */
  designFrom?: DesignFrom | null
  sensors: Readonly<Record<number, SensorSpecification>>
  prefer?: UnitPreference
  /** Largest reading that predictions speak of, by role of the channel; for kinds of test without a model. */
  predictedPeaks?: Readonly<Record<string, number>>
  /** Places where others expect it to fail. */
  expectedPlaces?: readonly { place: string; by: string }[]
}

/** Everything that follows from a plan's numbers, of whatever kind of test. */
export function planView(plan: Plan, frame: PlanFrame): PlanView {
  const { model, sensors, prefer = METRIC } = frame
  const show = (si: number, kind: Kind) => formatQuantity(si, kind, { prefer, digits: 3 })
  const { rungs, commanded } = plan
  const top = topOf(rungs)
  const maxTarget = rungs[top]!.target
  const loading = loadings[plan.loading.kind]
  // A rung of many cycles comes again and again: each target is placed, and its span solved, once.
  const targets = [...new Set(rungs.map(r => r.target))]
  const open = openFieldsOf(loading, plan.loading.settings)
  const placed = open.length > 0 ? undefined : loading.place?.(plan.loading.settings, targets)
  const loads: PointLoad[][] = rungs.map(r => placed?.[targets.indexOf(r.target)] ?? [])
  const span = model?.span ?? null
  const expectedAt = (c: PlanChannel, now: Loaded): number | null => {
    if (c.role === commanded.role) return now.target
    const further = plan.also.findIndex(a => a.name === c.role)
    if (further >= 0) return null
    // A person's or a prediction's peak is that of the highest rung, and goes with the load.
    const peak = c.expected ?? (model ? undefined : frame.predictedPeaks?.[c.role])
    return peak !== undefined
      ? maxTarget > 0
        ? (peak * now.target) / maxTarget
        : null
      : (model?.reading(c, now) ?? null)
  }
  const readChannel = plan.channels.find(c => c.role === frame.read?.role)
  const views = rungViews(plan, loads, now => (readChannel ? expectedAt(readChannel, now) : null))
  const channels = channelViews(
    plan.channels,
    c =>
      peakOf(
        rungs.map((r, i) =>
          c.offAfter !== undefined && r.source >= c.offAfter
            ? null
            : expectedAt(c, { target: r.target, loads: loads[i]! }),
        ),
      ),
    sensors,
    plan.rate,
  )
  const articleEnergy = model ? model.energyAt({ target: maxTarget, loads: loads[top]! }) : null
  const failure = model?.failure ?? null
  const context = {
    rungs,
    loads,
    top,
    span,
    readAt: frame.readAt,
    failure,
    articleEnergy,
    sampleRate: plan.rate,
    own: plan,
    show,
  }
  const loaded = open.length > 0 ? openView(loading, open) : loading.view(plan.loading.settings, context)
  const hazards = hazardViews(loaded.hazards, plan.hazards, plan.furtherHazards)
  const duration = views.length === 0 ? 0 : views.at(-1)!.start + views.at(-1)!.hold
  const data = dataView(plan.acquisition, channels, duration)
  const cameras = cameraViews(plan.cameras)
  const movement = plan.movement && span ? movementView(plan.movement, span, rungs, loads, top) : null
  const sag = span && loads[top]!.length > 0 ? span.bend(loads[top]!).at(span.length / 2).deflection : null
  const restraint = plan.restraint
    ? restraintView(
        plan.restraint,
        sag,
        rungs.map(r => (maxTarget > 0 ? r.target / maxTarget : 0)),
      )
    : null
  const storedEnergy = hazards.reduce((m, h) => Math.max(m, h.energy ?? 0), 0)
  const standoff = hazards.reduce((m, h) => Math.max(m, h.standoff ?? 0), 3)
  const isExample = plan.examples.length > 0
  const read = frame.read ?? { role: commanded.role, kind: commanded.kind }
  const expectedTop = views[top]!.expectedReading
  return {
    rungs: views,
    commanded: { role: commanded.role, kind: commanded.kind, label: commanded.label },
    read,
    maxTarget,
    top,
    duration,
    designTarget: frame.design ?? maxTarget,
    expectedSlope: maxTarget > 0 && expectedTop !== null ? expectedTop / maxTarget : 0,
    loading: { kind: plan.loading.kind, ...loaded },
    channels,
    data,
    cameras,
    movement,
    restraint,
    similitude: similitudeRows(plan.similitude),
    hazards,
    storedEnergy,
    standoff,
    caution: cautionOf(loaded.hazards, storedEnergy, standoff),
    failure,
    mass: model?.mass ?? null,
    shape: span
      ? Array.from({ length: 25 }, (_, i) => (span.length * i) / 24).map(x => ({
          x,
          deflection: span.bend(loads[top]!).at(x).deflection,
        }))
      : [],
    // Of example numbers nothing is foretold.
    predictions: isExample ? [] : (model?.predictions ?? []),
    predictedBy: isExample ? '' : (model?.source ?? ''),
    curves: isExample ? {} : (model?.curves ?? {}),
    cost: plan.channels.reduce((s, c) => s + (c.cost ?? 0), 0),
    findings: [
      ...(frame.designFrom && frame.design !== null
        ? designFindings(frame.designFrom, frame.design, commanded.kind, show)
        : []),
      ...exampleFindings(plan, maxTarget, show),
      ...capacityFindings(plan, show),
      ...loaded.findings,
      ...(isExample ? [] : (model?.findings ?? [])),
      ...channelFindings(plan.channels, channels, frame.needed, plan.rungs),
      ...dataFindings(data, channels),
      ...cameraFindings(plan.cameras, cameras, [...(frame.expectedPlaces ?? [])]),
      ...(plan.movement && movement ? movementFindings(plan.movement, movement, show) : []),
      ...(plan.restraint && restraint ? restraintFindings(plan.restraint, restraint, show) : []),
      ...similitudeFindings(plan.similitude),
      ...watchFindings(plan.watch, plan.channels),
      ...hazardFindings(hazards),
    ],
  }
}

function rungViews(
  { rungs, channels }: Plan,
  loads: readonly PointLoad[][],
  readingOf: (now: Loaded) => number | null,
): RungView[] {
  let at = 0
  return rungs.map((rung, i): RungView => {
    if (i > 0) at += rung.ramp
    const start = at
    at += rung.hold
    const before = rungs[i - 1]?.target ?? 0
    return {
      ...rung,
      isZero: rung.target === 0 && rung.also.every(a => a === 0),
      start,
      rate: rung.ramp > 0 ? (rung.target - before) / rung.ramp : 0,
      expectedReading: readingOf({ target: rung.target, loads: loads[i]! }),
      takeOff: rung.cycle === rung.cycles ? channels.filter(c => c.offAfter === rung.source + 1).map(c => c.label) : [],
    }
  })
}

/** The largest by size, with its sign. */
function peakOf(values: readonly (number | null)[]): number | null {
  const known = values.filter((v): v is number => v !== null)
  return known.length === 0 ? null : known.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a))
}

/** The caution with the number behind it. */
function cautionOf(
  hazards: readonly { why: string; energy: number | null }[],
  energy: number,
  standoff: number,
): string {
  const worst = hazards.find(h => h.energy === energy)
  return (
    `${worst ? `${worst.why} ` : ''}Nobody within ${Math.ceil(standoff)} m until the load is off; tether ` +
    `what can let go. Follow your site’s rules, local codes and licensed practice; this is no substitute for them.`
  )
}
