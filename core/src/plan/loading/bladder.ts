import * as z from 'zod'
import { energyAndStandoff } from '../../calc/planning/stored-energy'
import { sameDimension } from '../../quantity/index'
import { KINDS } from '../../quantity/kinds'
import { plain, quantity } from '../../method/settings'
import { stop, warn, type Finding } from '../finding'
import type { PointLoad } from '../model'
import { bentHazard } from './bentHazard'
import { column, defineLoading, fact, type LoadingContext } from './loading'
import { blocks, spanDrawing } from './spanDrawing'

const settings = z.object({
  from: quantity('length', { title: 'From', min: 0 }).default(0),
  length: quantity('length', { title: 'Length of the bladder', positive: true }),
  width: quantity('length', { title: 'Width of the bladder', positive: true }),
  contactEfficiency: plain({ title: 'Share of it in contact', positive: true, max: 1 }).default(1),
  filmLoss: plain({ title: 'Membrane loss', min: 0, max: 0.99 }).default(0),
  medium: z.enum(['water', 'gas']).default('water').meta({ title: 'Filled with' }),
  thickness: quantity('length', { title: 'Height of the bladder', positive: true }).default(0.05),
  rated: quantity('pressure', { title: 'Rated capacity of bladder or regulator', positive: true }).optional(),
})

type Settings = z.output<typeof settings>

/** Load for each pascal: area in contact, less what the film takes. */
const perPascal = (s: Settings): number => s.length * s.width * s.contactEfficiency * (1 - s.filmLoss)

const STRIPS = 24

/** A bladder between article and a stiff table: an even pressure, typed as a load or as what the regulator shows. */
export const bladder = defineLoading({
  kind: 'bladder',
  title: 'Bladder',
  purpose: 'An even pressure over an area, with contact and film loss',
  settings,
  usual: { goal: 800 },
  start: {},
  open: {
    length: { title: 'The bladder’s length', hangs: 'load for each pascal and stored energy', isNeeded: true },
    width: { title: 'The bladder’s width', hangs: 'load for each pascal and stored energy', isNeeded: true },
  },
  openHazard: { id: 'pressure', why: 'Without its size nobody knows what is stored in the bladder.' },
  commanded: () => ({ role: 'load', label: 'Load', kind: 'force' }),
  readTarget:
    s =>
    ({ si, dimension }) => {
      if (dimension === null || sameDimension(dimension, KINDS.force.dimension)) return si
      return sameDimension(dimension, KINDS.pressure.dimension)
        ? s.length && s.width
          ? si * perPascal(s)
          : 'A pressure tells the load once the bladder’s length and width are entered.'
        : 'This must be a load (N) or the bladder’s pressure (Pa).'
    },
  place: (s, targets) =>
    targets.map(t =>
      Array.from({ length: STRIPS }, (_, i): PointLoad => ({
        x: s.from + ((i + 0.5) * s.length) / STRIPS,
        force: t / STRIPS,
      })),
    ),
  view(s, context) {
    const { rungs, top, span, show } = context
    const pressures = rungs.map(r => r.target / perPascal(s))
    const highest = pressures[top] ?? 0
    const volume = s.length * s.width * s.thickness
    const energyOf = (medium: 'gas' | 'liquid') =>
      highest > 0
        ? energyAndStandoff(
            medium === 'gas'
              ? { kind: 'gas', pressure: highest, volume, gamma: 1.4, ambientPressure: 101325 }
              : { kind: 'liquid', pressure: highest, volume, bulkModulus: 2.2e9 },
          )
        : { energy: 0, standoff: 3 }
    const stored = energyOf(s.medium === 'gas' ? 'gas' : 'liquid')
    const waterMass = s.medium === 'water' ? volume * 1000 : 0
    return {
      set: [column('pressure', 'Regulator', 'pressure', pressures, { shown: true })],
      facts: [
        fact('Area', s.length * s.width, 'area'),
        fact('Load for each kPa', 1000 * perPascal(s), 'force'),
        ...(waterMass > 0 ? [fact('Water in it', waterMass, 'mass')] : []),
      ],
      tables: [],
      hazards: [
        bentHazard(context),
        {
          id: 'pressure',
          energy: stored.energy,
          standoff: stored.standoff,
          why:
            `${show(volume, 'volume')} of ${s.medium} at ` +
            `${show(highest, 'pressure')}${
              s.medium === 'gas'
                ? `; with water it would be ` +
                  `${show(energyOf('liquid').energy, 'energy')} ` +
                  `instead of ${show(stored.energy, 'energy')}`
                : ''
            }.`,
        },
      ],
      findings: findings(s, highest, context),
      drawing: spanDrawing(
        `Bladder with ${s.medium} over ${show(s.length, 'length')}`,
        context,
        deflection =>
          span ? blocks(deflection, span, strips(s, highest), Math.max(s.thickness, span.length * 0.03), s.medium) : [],
        (span?.length ?? 1) * 0.08,
      ),
    }
  },
})

/** The bladder follows the bent shape in pieces. */
const strips = (s: Settings, pressure: number) =>
  Array.from({ length: 8 }, (_, i) => ({
    from: s.from + (i * s.length) / 8,
    to: s.from + ((i + 1) * s.length) / 8,
    load: pressure,
    label: '',
  }))

function findings(s: Settings, highest: number, { span, show, rungs, top }: LoadingContext): Finding[] {
  const list: Finding[] = []
  if (s.rated && highest > s.rated)
    list.push(
      stop(
        'bladder-rated',
        `rungs.${rungs[top]?.source ?? 0}.target`,
        `The top rung asks ${show(highest, 'pressure')} of a bladder rated for ${show(s.rated, 'pressure')}.`,
        `End at ${show(s.rated * perPascal(s), 'force')}, or make it ` +
          `${show((highest / s.rated) * s.width, 'length')} wide.`,
      ),
    )
  if (span && s.from + s.length > span.length * (1 + 1e-9))
    list.push(
      warn(
        'off-article',
        'loading.length',
        'The bladder reaches beyond the article.',
        `From ${show(s.from, 'length')} there are ${show(span.length - s.from, 'length')} left.`,
      ),
    )
  if (s.medium === 'gas')
    list.push(
      warn(
        'gas-medium',
        'loading.medium',
        'Gas stores far more energy than water.',
        'Fill with water unless the article cannot bear its weight.',
      ),
    )
  return list
}
