import * as z from 'zod'
import { energyAndStandoff } from '../../calc/planning/stored-energy'
import { quantity } from '../../method/settings'
import { column, defineLoading, fact, type LoadingHazard } from './loading'
import { chainFacts, chainFindings, chainOf, chainTable, drawChain, partFields, type Part } from './loadPath'

const settings = z.object({
  direction: z.enum(['tension', 'compression']).default('tension').meta({ title: 'Direction' }),
  path: z
    .array(z.object(partFields('force')))
    .min(1)
    .meta({ title: 'Load path' }),
  stiffness: quantity('stiffness', { title: 'Stiffness of the whole line', positive: true }).optional(),
  lineLength: quantity('length', { title: 'Length of line that can fly', positive: true }).optional(),
})

type Settings = z.output<typeof settings>

const partsOf = (s: Settings): Part[] => s.path.map(p => ({ ...p, ratio: 1 }))

/** Article, hooks, shackles, cell and anchor in a row, pulled or pressed. */
export const pull = defineLoading({
  kind: 'pull',
  title: 'Pull or press',
  purpose: 'A load path of which the article is to be the weakest part',
  settings,
  usual: { goal: 8000, lookFrom: 0.8 },
  start: { path: [{ name: 'Article', article: true }] },
  commanded: () => ({ role: 'force', label: 'Force', kind: 'force' }),
  view(s, context) {
    const { rungs, top, show } = context
    const parts = partsOf(s)
    const chain = chainOf(parts)
    const highest = rungs[top]?.target ?? 0
    return {
      set: [
        ...(chain.articleCapacity
          ? [
              column(
                'share',
                'Of the article',
                'ratio',
                rungs.map(r => r.target / chain.articleCapacity!),
              ),
            ]
          : []),
        ...(s.stiffness
          ? [
              column(
                'energy',
                'Stored',
                'energy',
                rungs.map(r => r.target ** 2 / (2 * s.stiffness!)),
              ),
            ]
          : []),
      ],
      facts: [
        ...chainFacts(chain, 'force'),
        ...(s.stiffness ? [fact('Stretch at the top', highest / s.stiffness, 'length')] : []),
      ],
      tables: [chainTable(chain, 'force')],
      hazards: [lineHazard(s, highest, show)],
      findings: chainFindings(parts, chain, 'force', context),
      drawing: drawChain(
        `${s.direction === 'tension' ? 'Pulled' : 'Pressed'} with ${show(highest, 'force')}, weakest part first ` +
          `in line to fail`,
        parts,
        chain,
        highest,
        'force',
        s.direction === 'compression',
      ),
    }
  },
})

/** A line that parts sweeps as far as it is long. */
function lineHazard(
  s: Settings,
  force: number,
  show: (si: number, kind: 'energy' | 'length') => string,
): LoadingHazard {
  const sweep = s.direction === 'tension' ? (s.lineLength ?? 0) : 0
  if (!s.stiffness || force === 0)
    return {
      id: s.direction === 'tension' ? 'line' : 'spring',
      energy: null,
      standoff: Math.max(3, sweep),
      why: 'Without the stiffness of the line its stored energy is not known.',
    }
  const { energy, standoff } = energyAndStandoff({ kind: 'line', force, stiffness: s.stiffness })
  return {
    id: s.direction === 'tension' ? 'line' : 'spring',
    energy,
    standoff: Math.max(standoff, sweep),
    why:
      `${show(energy, 'energy')} are stored in the stretched ` +
      `line${sweep > 0 ? `; it can sweep ${show(sweep, 'length')}` : ''}.`,
  }
}
