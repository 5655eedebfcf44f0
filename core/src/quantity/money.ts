import { HypometError } from '../error'
import { readNumber, type NumberStyle } from './number'
import { lookUp } from './lookUp'

const SIGNS: Record<string, readonly string[]> = {
  '€': ['EUR'],
  $: ['USD', 'AUD', 'CAD', 'NZD'],
  '£': ['GBP'],
  '¥': ['JPY', 'CNY'],
  kr: ['DKK', 'NOK', 'SEK', 'ISK'],
  'kr.': ['DKK', 'NOK', 'SEK', 'ISK'],
}
const CURRENCY = /^(?:[A-Za-z]{3}(?![A-Za-z])|€|\$|£|¥|kr\.?(?![A-Za-z]))/

/**
 * An amount as people write it: “3000”, “3000 DKK”, “€ 3.000,50”.
 *
 * @param currency  that of the campaign; another one is refused, for nobody knows the rate
 * @throws HypometError `not-a-number`, `number-ambiguous`, `other-currency`
 */
export function readMoney(text: string, currency?: string, style?: NumberStyle): number {
  const from = text.trim()
  const before = CURRENCY.exec(from)?.[0] ?? ''
  const read = readNumber(from.slice(before.length), style)
  const after = read?.rest.trim() ?? ''
  const named = before || after
  if (!read || (before && after) || (after && CURRENCY.exec(after)?.[0] !== after))
    throw new HypometError('not-a-number', `“${from}” is not an amount of money.`)
  const meant = lookUp(SIGNS, named.toLowerCase()) ?? [named.toUpperCase()]
  if (named && currency && !meant.includes(currency.toUpperCase()))
    throw new HypometError('other-currency', `“${from}”: this campaign counts in ${currency}.`)
  return read.value
}
