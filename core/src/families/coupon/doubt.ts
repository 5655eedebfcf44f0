import type { ReadingDoubt, ResultScatter } from '../../family/contract'
import type { Reduction } from '../../method/reduction'
import type { CouponSettings } from './settings'

/**
 * One cell reads the largest force and both ends of the chord. A mean of n specimens scatters by s/√n, s itself by
 * about s/√(2(n − 1)), with n − 1 degrees of freedom. A basis value holds its confidence by itself.
 *
 * @source JCGM 100:2008, 4.2 and E.4.3
 */
export const couponDoubt: ReadingDoubt<CouponSettings> = {
  together: ['ultimateForce', 'forceLow', 'forceHigh'],
  scatter: (_, __, reduction) => ({ ...scatterOf(reduction, 'strength'), ...scatterOf(reduction, 'modulus') }),
}

function scatterOf({ results, tables }: Reduction, of: 'strength' | 'modulus'): Record<string, ResultScatter> {
  const n = tables['specimens']!.columns[of]!.filter(v => v !== null).length
  const [sd, cv] = [results[`${of}Sd`]!.value, results[`${of}Cv`]!.value]
  if (n < 2 || sd === null || cv === null) return {}
  const dof = n - 1
  return {
    [`${of}Mean`]: { u: sd / Math.sqrt(n), dof },
    [`${of}Sd`]: { u: sd / Math.sqrt(2 * dof), dof },
    [`${of}Cv`]: { u: cv * Math.sqrt(1 / (2 * dof) + cv ** 2 / n), dof },
  }
}
