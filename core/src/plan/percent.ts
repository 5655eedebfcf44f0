/** A share as people say it in a sentence. */
export const percent = (share: number): string => `${(100 * share).toFixed(Math.abs(share) < 0.1 ? 1 : 0)} %`
