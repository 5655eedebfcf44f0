const RESERVED = new Set(['pi'])

/**
 * A name for each channel that an expression can hold: its own where that is one, else with underscores for what is not
 * a letter or a digit; told apart by numbers.
 *
 * @example symbolsOf(['load', 'Oil temperature [°C]']) // ['load', 'Oil_temperature_C']
 */
export function symbolsOf(names: readonly string[]): string[] {
  const taken = new Set<string>(RESERVED)
  return names.map(name => {
    const plain = name
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9_]+/g, '_')
      .replace(/^_+|_+$/g, '')
    const symbol = /^[A-Za-z_]/.test(plain) ? plain : `c${plain}`
    let free = symbol
    for (let n = 2; taken.has(free); n++) free = `${symbol}_${n}`
    taken.add(free)
    return free
  })
}
