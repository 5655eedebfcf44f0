/**
 * Corrected Akaike criterion of a least-squares model; the variance counts as a parameter. Null where the data are too
 * few for
 * it, or nothing is left over.
 *
 * @param k  parameters of the model without the variance
 * @source Burnham & Anderson, Model Selection and Multimodel Inference, ch. 2
 */
export function correctedAkaike(n: number, rss: number, k: number): number | null {
  const K = k + 1
  if (n - K - 1 <= 0 || !(rss > 0)) return null
  return n * Math.log(rss / n) + 2 * K + (2 * K * (K + 1)) / (n - K - 1)
}

/** Weights of models by their criteria: 1 in all. */
export function akaikeWeights(aicc: readonly number[]): number[] {
  const least = Math.min(...aicc)
  const likelihoods = aicc.map(a => Math.exp(-(a - least) / 2))
  const sum = likelihoods.reduce((s, l) => s + l, 0)
  return likelihoods.map(l => l / sum)
}
