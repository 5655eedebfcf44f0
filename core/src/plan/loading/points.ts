import * as z from 'zod'
import { issue, plain, quantity } from '../../method/settings'
import { warn } from '../finding'
import { bentHazard } from './bentHazard'
import { column, defineLoading, fact } from './loading'
import { pulls, spanDrawing } from './spanDrawing'

const settings = z
  .object({
    loads: z
      .array(
        z.object({
          x: quantity('length', { title: 'From the root', min: 0 }),
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

/** Hooks, straps or jacks at a few places, each with its fixed share of the load. */
export const points = defineLoading({
  kind: 'points',
  title: 'At places',
  purpose: 'Hooks, straps or jacks, each with its share',
  settings,
  usual: { goal: 1000 },
  example: { loads: [{ x: { value: 1, unit: 'm' }, share: 1 }] },
  commanded: () => ({ role: 'load', label: 'Load', kind: 'force' }),
  place: ({ loads }, targets) => targets.map(t => loads.map(l => ({ x: l.x, force: l.share * t }))),
  view({ loads }, context) {
    const { span, rungs, top, show } = context
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
        fact(
          'Centre of the load',
          loads.reduce((s, l) => s + l.share * l.x, 0),
          'length',
        ),
        fact('Moment at the start', (rungs[top]?.target ?? 0) * loads.reduce((s, l) => s + l.share * l.x, 0), 'torque'),
      ],
      tables: [],
      hazards: [bentHazard(context)],
      findings: !span
        ? []
        : loads.flatMap((l, i) =>
            l.x > span.length
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
