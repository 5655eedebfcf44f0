import '../../test/nuxt-globals'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { METRIC, type Figure, type Series } from '@hypomet/core'
import { useUnits } from '../../composables/shared/useUnits'
import PredictionFit from './PredictionFit.vue'

Object.assign(globalThis, { useUnits })

const x = [0, 1, 2, 3, 4, 5]
const line = (name: string, slope: number, style: Series['style'] = 'measured'): Series => ({
  name,
  style,
  x,
  y: x.map(v => slope * v),
})
const figure = (...series: Series[]): Figure => ({
  x: { label: 'Lift', kind: 'length' },
  y: { label: 'Flow', kind: 'volumeFlow' },
  series,
  lines: [],
})
const words = (measured: Series[], predicted: Series) =>
  mount(PredictionFit, { props: { figure: figure(...measured), predicted: [predicted], prefer: METRIC } }).text()

describe('a predicted curve', () => {
  const model = line('Predicted: model', 2, 'predicted')
  it('is held against the one that was measured', () => {
    expect(words([line('Stock', 3)], model)).toMatch(/measured 1\.500 times predicted/)
  })
  it('of several against the configuration that it speaks of, whatever stands first', () => {
    const both = [line('Stock', 3), line('Wide bowl', 5)]
    expect(words(both, { ...model, config: 'wide bowl' })).toMatch(/measured 2\.500 times predicted/)
    expect(words(both, model)).toMatch(/several were measured \(Stock, Wide bowl\)/)
    expect(words(both, { ...model, config: 'Port 3' })).toMatch(/“Port 3”, which is not among what was measured/)
  })
})
