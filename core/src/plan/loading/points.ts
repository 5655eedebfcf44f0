import * as z from 'zod'
import { issue, mayWait, plain, quantity } from '../../method/settings'
import { warn } from '../finding'
import { bentHazard } from './bentHazard'
import { column, defineLoading, fact, openFinding } from './loading'
import { pulls, spanDrawing } from './spanDrawing'

const settings = z
  .object({
    loads: z
      .array(
        z.object({
          x: mayWait(quantity('length', { title: 'From the root', min: 0 })),
          share: plain({ title: 'Share of the load', positive: true, max: 1 }),
        }),
      )
      .min(1)
      .meta({ title: 'Where the load goes in' }),
  })
  .superRefine((s, ctx) => {
    const shares = s.loads.reduce((sum, l) => sum + l.share, 0)
    if (Math.abs(shares - 1) > 1e-6)
      issue(ctx, 'setting-range', `The shares of the load add up to ${(shares * 100).toFixed(0)} %, not to 100 %.`, [
        'loads',
      ])
  })

interface Placed {
  x: number
  share: number
}
const isPlaced = (loads: readonly { x?: number | undefined; share: number }[]): loads is Placed[] =>
  loads.every(l => l.x !== undefined)

/** Hooks, straps or jacks at a few places, each with its fixed share of the load. */
export const points = defineLoading({
  kind: 'points',
  title: 'At places',
  purpose: 'Hooks, straps or jacks, each with its share',
  settings,
  usual: { goal: 1000 },
  start: { loads: [{ share: 1 }] },
  commanded: () => ({ role: 'load', label: 'Load', kind: 'force' }),
  place: ({ loads }, targets) =>
    targets.map(t => (isPlaced(loads) ? loads.map(l => ({ x: l.x, force: l.share * t })) : [])),
  view({ loads }, context) {
    const { span, rungs, top, show } = context
    const centre = isPlaced(loads) ? loads.reduce((s, l) => s + l.share * l.x, 0) : null
    return {
      set:
        loads.length > 1
          ? loads.map((l, i) =>
              column(
                `p${i + 1}`,
                `Place ${i + 1}`,
                'force',
                rungs.map(r => r.target * l.share),
              ),
            )
          : [],
      facts: [
        fact('Centre of the load', centre, 'length'),
        fact('Moment at the start', centre === null ? null : (rungs[top]?.target ?? 0) * centre, 'torque'),
      ],
      tables: [],
      hazards: [bentHazard(context)],
      findings: loads.flatMap((l, i) =>
        l.x === undefined
          ? [
              openFinding(`loading.loads.${i}.x`, {
                title: 'Where the load goes in',
                hangs: 'moments, expected deflections and the place that fails first',
              }),
            ]
          : span && l.x > span.length
            ? [
                warn(
                  'off-article',
                  `loading.loads.${i}.x`,
                  'This place lies beyond the end of the article.',
                  `It ends at ${show(span.length, 'length')}.`,
                ),
              ]
            : [],
      ),
      drawing: spanDrawing('Loads at their places', context, span ? pulls(span) : () => []),
    }
  },
})
