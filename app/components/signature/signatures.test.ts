import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { decide, formatQuantity, METRIC, type Result } from '@hypomet/core'
import LimitRail from './LimitRail.vue'
import StepLadder from './StepLadder.vue'
import VerdictMark from './VerdictMark.vue'

const show = (si: number) => formatQuantity(si, 'length', { prefer: METRIC, digits: 3 })

function rail(
  result: Pick<Result, 'value' | 'bound' | 'u' | 'k'>,
  comparator: 'atMost' | 'atLeast' = 'atMost',
  limit = 0.082,
) {
  const { verdict } = decide(result, comparator, limit, 'guarded')
  const w = mount(LimitRail, {
    props: {
      label: 'Deflection',
      limit,
      comparator,
      result,
      verdict,
      show,
      predicted: { value: 0.08, u: 0.004, k: 2 },
    },
  })
  const x = (part: string) => Number(w.find(`[data-part="${part}"]`).attributes('x1'))
  return {
    w,
    x,
    has: (part: string) => w.find(`[data-part="${part}"]`).exists(),
    label: w.find('svg').attributes('aria-label'),
  }
}

describe('limit rail', () => {
  it('stands clear of the wall when it passes, and says so without colour', () => {
    const { x, has, label } = rail({ value: 0.078, bound: 'exact', u: 0.0004, k: 2 })
    expect(x('value')).toBeLessThan(x('wall'))
    expect([has('whisker'), has('notch'), has('predicted')]).toEqual([true, false, true])
    expect(label).toBe('Deflection: 78.0\u202fmm plus or minus 0.800\u202fmm, limit at most 82.0\u202fmm, pass')
  })

  it('is notched beyond the wall when it fails', () => {
    const { x, has } = rail({ value: 0.0894, bound: 'exact', u: 0.0003, k: 2 })
    expect(x('value')).toBeGreaterThan(x('wall'))
    expect(has('notch')).toBe(true)
  })

  it('is hatched across the wall when it is undecided', () => {
    const { w } = rail({ value: 0.0815, bound: 'exact', u: 0.0005, k: 2 })
    const hatch = w.find('[data-part="whisker"] rect')
    const [from, width] = [Number(hatch.attributes('x')), Number(hatch.attributes('width'))]
    const wall = Number(w.find('[data-part="wall"]').attributes('x1'))
    expect(from).toBeLessThan(wall)
    expect(from + width).toBeGreaterThan(wall)
  })

  it('draws a bound as an arrow and an interval as a bracket', () => {
    expect(rail({ value: 0.06, bound: 'atLeast' }, 'atLeast').has('bound')).toBe(true)
    expect(rail({ value: 0.06, bound: { interval: [0.05, 0.07] } }).has('interval')).toBe(true)
  })

  it('bars the side that is beyond the limit', () => {
    const barred = (c: 'atMost' | 'atLeast') =>
      rail({ value: 0.06, bound: 'exact' }, c).w.find('[data-part="barred"]').attributes()
    expect(Number(barred('atLeast').x)).toBe(0)
    expect(Number(barred('atMost').x)).toBeGreaterThan(0)
  })

  it('stays a rail when there is no value', () => {
    const w = mount(LimitRail, {
      props: { label: 'Set', limit: 1, comparator: 'atMost', result: null, verdict: 'undecided', show },
    })
    expect(w.find('[data-part="value"]').exists()).toBe(false)
    expect(w.html()).not.toContain('NaN')
  })
})

describe('step ladder', () => {
  const rungs = [
    { target: 0, hold: 24, isZero: true },
    { target: 800, hold: 20, isZero: false, expected: 0.02 },
    {
      target: 1600,
      hold: 20,
      isZero: false,
      expected: 0.04,
      reached: 1590,
      reading: 0.041,
      calledBy: 'Ada',
      decision: 'done' as const,
    },
  ]
  const props = { rungs, showLoad: (v: number) => `${v} N`, showReading: (v: number) => `${v * 1000} mm` }

  it('shows target, hold, what is expected or was read, and who called it', () => {
    const rows = mount(StepLadder, { props })
      .findAll('li')
      .map(li => li.text().replace(/\s+/g, ' '))
    expect(rows[0]).toContain('zero')
    expect(rows[1]).toContain('⋯ 20 mm')
    expect(rows[2]).toMatch(/1600 N.*20 s.*41 mm.*called by Ada/)
  })

  it('draws rungs in proportion to their load, and lets one be chosen only where it may be changed', async () => {
    const plan = mount(StepLadder, { props: { ...props, editable: true } })
    const widths = plan.findAll('li').map(li => li.find('span[style]').attributes('style') ?? '')
    expect(widths[2]).toContain('100%')
    expect(widths[1]).toContain('50%')
    await plan.findAll('button')[1]!.trigger('click')
    expect(plan.emitted('select')).toEqual([[1]])
    expect(mount(StepLadder, { props }).find('button').exists()).toBe(false)
  })
})

describe('verdict mark', () => {
  it('says the verdict in words, with a shape of its own for each', () => {
    const marks = (['pass', 'undecided', 'fail'] as const).map(verdict => mount(VerdictMark, { props: { verdict } }))
    expect(marks.map(m => m.text())).toEqual(['Pass', 'Undecided', 'Fail'])
    expect(new Set(marks.map(m => m.find('svg').html())).size).toBe(3)
  })
})
