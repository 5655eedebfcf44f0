export interface LineFit {
  slope: number
  intercept: number
  /** Standard error of the slope; NaN below three points. */
  slopeError: number
  residualSd: number
  n: number
}

/**
 * Ordinary least squares of y on x, about the means.
 *
 * @param x, y  same length, no gaps
 * @example fitLine([0, 1, 2], [1, 3, 5]) // slope 2, intercept 1
 */
export function fitLine(x: ArrayLike<number>, y: ArrayLike<number>): LineFit {
  const n = x.length
  let [mx, my] = [0, 0]
  for (let i = 0; i < n; i++) {
    mx += x[i]!
    my += y[i]!
  }
  mx /= n
  my /= n
  let [sxx, sxy, syy] = [0, 0, 0]
  for (let i = 0; i < n; i++) {
    const dx = x[i]! - mx
    const dy = y[i]! - my
    sxx += dx * dx
    sxy += dx * dy
    syy += dy * dy
  }
  const slope = sxy / sxx
  const residualSd = n > 2 ? Math.sqrt(Math.max(0, syy - slope * sxy) / (n - 2)) : NaN
  return { slope, intercept: my - slope * mx, slopeError: residualSd / Math.sqrt(sxx), residualSd, n }
}
