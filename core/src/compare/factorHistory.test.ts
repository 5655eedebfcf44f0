import { describe, expect, test } from 'vitest'
import { factorHistory, type HistoryRevision } from './factorHistory'

const exact = (value: number, u = 0.5) => ({ value, u, k: 2, bound: 'exact' as const })
const revision = (
  id: number,
  parentId: number | null,
  factors: HistoryRevision['factors'],
  result: HistoryRevision['result'],
): HistoryRevision => ({ id, label: 'ABCDEFG'[id - 1]!, parentId, factors, result })

describe('the history of factors', () => {
  test(
    'one that changed alone has its effect with the uncertainties of both ends; two that changed together ' +
      'cannot be told apart',
    () => {
      const { steps, factors } = factorHistory([
        revision(1, null, { fillet: 2e-3, steel: 'C45', surface: 'turned' }, exact(300)),
        revision(2, 1, { fillet: 3e-3, steel: 'C45', surface: 'turned' }, exact(312, 1.5)),
        revision(3, 2, { fillet: 3e-3, steel: '42CrMo4', surface: 'peened' }, exact(360)),
      ])
      expect(steps[0]).toMatchObject({ from: { label: 'A' }, to: { label: 'B' }, effect: 12, moved: 'yes' })
      expect(steps[0]!.U).toBeCloseTo(Math.hypot(1, 3), 12)
      expect(factors.find(f => f.factor === 'fillet')).toMatchObject({
        changes: 1,
        togetherWith: [],
        alone: [{ effect: 12 }],
      })
      expect(factors.find(f => f.factor === 'steel')).toMatchObject({ alone: [], togetherWith: ['surface'] })
    },
  )

  test('a difference inside its uncertainty has not moved; a bound leaves it open', () => {
    const { steps } = factorHistory([
      revision(1, null, { t: 1 }, exact(10, 1)),
      revision(2, 1, { t: 2 }, exact(11, 1)),
      revision(3, 2, { t: 3 }, { ...exact(20), bound: 'atLeast' }),
    ])
    expect(steps.map(s => s.moved)).toEqual(['no', 'open'])
  })

  test('with more revisions than effects the slopes come by least squares: 4 per mm and 20 for the steel', () => {
    const at = (fillet: number, steel: string) => 100 + 4 * fillet + (steel === 'hard' ? 20 : 0)
    const points: [number, string][] = [
      [1, 'soft'],
      [3, 'soft'],
      [1, 'hard'],
      [3, 'hard'],
      [2, 'hard'],
    ]
    const { fit } = factorHistory(
      points.map(([fillet, steel], i) => revision(i + 1, i || null, { fillet, steel }, exact(at(fillet, steel)))),
    )
    expect(fit!.effects.find(e => e.factor === 'fillet')!.effect).toBeCloseTo(4, 9)
    const levels = fit!.effects.filter(e => e.factor === 'steel').map(e => e.effect)
    expect(Math.max(...levels) - Math.min(...levels)).toBeCloseTo(20, 9)
  })
})
