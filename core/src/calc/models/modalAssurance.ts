const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, v, i) => sum + v * b[i]!, 0)

/**
 * Modal assurance criterion of two shapes over the same points: one where they are alike but for their size, zero
 * where
 * they have nothing in common.
 *
 * @source Allemang & Brown (1982)
 * @example assurance([1, 2], [2, 4]) // 1
 */
export const assurance = (a: readonly number[], b: readonly number[]): number =>
  dot(a, b) ** 2 / (dot(a, a) * dot(b, b))
