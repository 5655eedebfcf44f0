/** “66 425 EUR”: whole units of the campaign's currency, thousands apart. */
export const moneyText = (amount: number, currency: string): string =>
  `${Math.round(amount).toLocaleString('en-GB').replace(/,/g, '\u202f')}\u202f${currency}`
