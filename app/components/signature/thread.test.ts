import { went } from '../../test/nuxt-globals'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { METRIC } from '@hypomet/core'
import QuantityField from '../fields/QuantityField.vue'
import RevisionThread from './RevisionThread.vue'
import StageStrip from './StageStrip.vue'
import VerdictMark from './VerdictMark.vue'

const link = { NuxtLink: { props: ['to'], template: '<a :href="to"><slot /></a>' } }

describe('stage strip', () => {
  const stages = (['plan', 'ready', 'run', 'reduce', 'judge', 'change'] as const).map((stage, i) => ({
    stage,
    words: i === 1 ? '3 of 13 open' : 'done',
    state: i === 1 ? ('open' as const) : ('done' as const),
  }))

  it('names the six stages in order with their state in words, and marks where one is', () => {
    const w = mount(StageStrip, { props: { testId: 7, stages, current: 'ready' }, global: { stubs: link } })
    expect(w.findAll('a').map(a => a.attributes('href'))).toEqual(stages.map(s => `/tests/7/${s.stage}`))
    expect(w.find('[aria-current="step"]').text()).toContain('3 of 13 open')
    w.unmount()
  })

  it('is walked with the keys 1 to 6, but not while typing', () => {
    went.length = 0
    const w = mount(StageStrip, {
      props: { testId: 7, stages, current: 'plan' },
      global: { stubs: link },
      attachTo: document.body,
    })
    window.dispatchEvent(new KeyboardEvent('keydown', { key: '4' }))
    expect(went).toEqual(['/tests/7/reduce'])
    const field = document.body.appendChild(document.createElement('input'))
    field.dispatchEvent(new KeyboardEvent('keydown', { key: '5', bubbles: true }))
    expect(went).toHaveLength(1)
    w.unmount()
    field.remove()
  })
})

describe('revision thread', () => {
  it('joins revisions by what changed, with mass above and verdicts beneath', () => {
    const test = {
      id: 4,
      title: 'Ladder',
      stage: 'judge',
      words: 'judge: not judged',
      verdicts: [{ name: 'Ultimate load', verdict: 'undecided' as const }],
    }
    const revisions = [
      { id: 1, label: 'A', changed: '', why: '', mass: '3.5 kg', tests: [test] },
      { id: 2, label: 'B', changed: 'caps thinner', why: 'too heavy', mass: '3.2 kg', tests: [] },
    ]
    const w = mount(RevisionThread, {
      props: { revisions, next: { words: 'choose', to: '/tests/4/change' } },
      global: { stubs: link, components: { VerdictMark } },
    })
    const items = w.findAll('ol > li')
    expect(items[0]!.text()).toMatch(/A.*3\.5 kg.*Ladder.*Ultimate load.*Undecided/s)
    expect(items[1]!.text()).toMatch(/caps thinner.*too heavy.*B/s)
    expect(w.find('a[href="/tests/4/change"]').exists()).toBe(true)
  })
})

describe('quantity field', () => {
  const field = (modelValue: unknown = { value: 3.2, unit: 'kN' }) =>
    mount(QuantityField, {
      props: { modelValue: modelValue as never, kind: 'force', label: 'Design load', prefer: METRIC },
    })

  it('takes what people type, keeps it as typed, and shows SI in the preferred unit', async () => {
    const w = field()
    expect(w.find('input').element.value).toBe('3.2 kN')
    w.find('input').element.value = '850 lbf'
    await w.find('input').trigger('change')
    expect(w.emitted('update:modelValue')).toEqual([[{ value: 850, unit: 'lbf' }]])
    expect(w.find('input').element.value).toBe('850 lbf')
    expect(field(3200).find('input').element.value).toBe('3.2 kN')
  })

  it('refuses nonsense at the field, says why, and keeps the old value', async () => {
    for (const [text, why] of [
      ['heavy', /does not begin with a number/],
      ['4 mm', /not a unit of force/],
      ['', /number is needed/],
    ] as const) {
      const w = field()
      w.find('input').element.value = text
      await w.find('input').trigger('change')
      expect(w.emitted('update:modelValue')).toBeUndefined()
      expect(w.find('.problem').text()).toMatch(why)
      expect(w.find('input').attributes('aria-invalid')).toBe('true')
    }
  })
})
