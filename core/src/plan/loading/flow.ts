import * as z from 'zod'
import { plain, quantity } from '../../method/settings'
import { stop, warn, type Finding } from '../finding'
import { column, defineLoading, fact, type LoadingContext } from './loading'
import { blockDrawing } from './rig'

/** Dry air at 20 °C and 1013.25 hPa, kg/m³. */
const AIR = 1.2041

const settings = z.object({
  testPressure: quantity('pressure', { title: 'Test pressure', positive: true }),
  diameter: quantity('length', { title: 'Valve diameter', positive: true }),
  valves: plain({ title: 'Valves', min: 1, max: 64, whole: true }).default(1),
  coefficient: plain({ title: 'Discharge coefficient expected', positive: true, max: 1.2 }).default(0.6),
  benchFlow: quantity('volumeFlow', { title: 'Bench gives at most', positive: true }).optional(),
})

type Settings = z.output<typeof settings>

/** Curtain area times what the pressure makes. */
const flowAt = (s: Settings, lift: number): number =>
  s.coefficient * s.valves * Math.PI * s.diameter * lift * Math.sqrt((2 * s.testPressure) / AIR)

/** Lifts at a test pressure on a flow bench, with the shut valve as the leak test. */
export const flow = defineLoading({
  kind: 'flow',
  title: 'Flow bench',
  purpose: 'Lifts at a test pressure: expected flow against the bench',
  settings,
  usual: { goal: 0.008 },
  start: {},
  open: {
    testPressure: { title: 'The test pressure', hangs: 'expected flows and the flow at a common pressure' },
    diameter: { title: 'The valve’s diameter', hangs: 'flow coefficients and lift over diameter', ofArticle: true },
  },
  openHazard: { id: 'rotating', why: 'A blower draws in what is loose.' },
  commanded: () => ({ role: 'lift', label: 'Lift', kind: 'length' }),
  view(s, context) {
    const { rungs, top } = context
    const highest = rungs[top]?.target ?? 0
    return {
      set: [
        column(
          'flow',
          'Flow expected',
          'volumeFlow',
          rungs.map(r => flowAt(s, r.target)),
        ),
        column(
          'ratio',
          'Lift over diameter',
          'ratio',
          rungs.map(r => r.target / s.diameter),
        ),
      ],
      facts: [
        fact('Velocity in the gap', Math.sqrt((2 * s.testPressure) / AIR), 'velocity'),
        fact('Largest flow', flowAt(s, highest), 'volumeFlow'),
      ],
      tables: [],
      hazards: [
        { id: 'rotating', energy: null, standoff: null, why: 'A blower draws in what is loose.' },
        { id: 'noise', energy: null, standoff: null, why: 'The bench is loud at full flow.' },
      ],
      findings: findings(s, context),
      drawing: blockDrawing('Flow bench: article, meter, blower', [
        { text: 'article', value: highest, kind: 'length', tone: 'article' },
        { text: 'plenum', value: s.testPressure, kind: 'pressure', tone: 'soft' },
        { text: 'meter', value: flowAt(s, highest), kind: 'volumeFlow', tone: 'fixture' },
        {
          text: 'blower',
          ...(s.benchFlow ? { value: s.benchFlow, kind: 'volumeFlow' as const } : {}),
          tone: 'fixture',
        },
      ]),
    }
  },
})

function findings(s: Settings, { rungs, show }: LoadingContext): Finding[] {
  const list: Finding[] = []
  rungs.forEach(r => {
    const q = flowAt(s, r.target)
    if (s.benchFlow && q > s.benchFlow)
      list.push(
        stop(
          'bench-flow',
          `rungs.${r.source}.target`,
          `A lift of ${show(r.target, 'length')} lets ${show(q, 'volumeFlow')} through; the bench gives ` +
            `${show(s.benchFlow, 'volumeFlow')}.`,
          `Test at ${show(s.testPressure * (s.benchFlow / q) ** 2, 'pressure')}, and correct to the pressure you ` +
            `compare at.`,
        ),
      )
  })
  if (!rungs.some(r => r.target === 0))
    list.push(
      warn(
        'no-leak-test',
        'rungs',
        'No rung has the valve shut: the leak is not taken off.',
        'Begin with a lift of zero.',
      ),
    )
  return list
}
