import * as z from 'zod'
import { plain, quantity } from '../../method/settings'
import { column, defineLoading, fact } from './loading'
import { chainFacts, chainFindings, chainOf, chainTable, drawChain, partFields, type Part } from './loadPath'

const settings = z.object({
  path: z
    .array(
      z.object({
        ...partFields('torque'),
        ratio: plain({ title: 'Own torque over input', positive: true }).default(1),
      }),
    )
    .min(1)
    .meta({ title: 'Load path' }),
  stiffness: quantity('torque', { title: 'Stiffness, torque a radian', positive: true }).optional(),
})

type Settings = z.output<typeof settings>

/** Parts seen from the article: their own torque over the article's. */
function partsOf(s: Settings): { parts: Part[]; articleRatio: number } {
  const articleRatio = s.path.find(p => p.article)?.ratio ?? 1
  return { parts: s.path.map(p => ({ ...p, ratio: p.ratio / articleRatio })), articleRatio }
}

/** Shaft, gears, couplings and arm in a row. The ladder counts at the article; the input's torque stands beside it. */
export const torque = defineLoading({
  kind: 'torque',
  title: 'Torque',
  purpose: 'A drive train of which the article is to be the weakest part',
  settings,
  usual: { goal: 1200, lookFrom: 0.8 },
  start: { path: [{ name: 'Article', article: true }] },
  commanded: () => ({ role: 'torque', label: 'Torque', kind: 'torque' }),
  view(s, context) {
    const { rungs, top, show } = context
    const { parts, articleRatio } = partsOf(s)
    const chain = chainOf(parts)
    const highest = rungs[top]?.target ?? 0
    const wound = s.stiffness ? highest ** 2 / (2 * s.stiffness) : null
    return {
      set: [
        ...(articleRatio === 1
          ? []
          : [
              column(
                'input',
                'At the input',
                'torque',
                rungs.map(r => r.target / articleRatio),
                { shown: true },
              ),
            ]),
        ...(s.stiffness
          ? [
              column(
                'twist',
                'Twist',
                'angle',
                rungs.map(r => r.target / s.stiffness!),
              ),
            ]
          : []),
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
      ],
      facts: [
        ...chainFacts(chain, 'torque'),
        fact('At the input', highest / articleRatio, 'torque'),
        ...(s.stiffness ? [fact('Twist at the top', highest / s.stiffness, 'angle')] : []),
      ],
      tables: [chainTable(chain, 'torque')],
      hazards: [
        {
          id: 'wound',
          energy: wound,
          standoff: 3,
          why:
            wound === null
              ? 'Without its stiffness the energy in the wound shaft is not known.'
              : `${show(wound, 'energy')} are wound up in the shaft at the top rung.`,
        },
      ],
      findings: chainFindings(parts, chain, 'torque', context),
      drawing: drawChain(
        `Twisted with ${show(highest, 'torque')} at the article`,
        parts,
        chain,
        highest,
        'torque',
        false,
      ),
    }
  },
})
