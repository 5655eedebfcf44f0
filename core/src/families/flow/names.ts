import { HypometError } from '../../error'
import type { FlowSettings } from './settings'

/**
 * The two configurations that are held against each other: as said, else the first and the last of the file.
 *
 * @throws HypometError `setting-range` for one that is not there
 */
export function comparedOf(names: readonly string[], s: FlowSettings): [baseline: string, subject: string] {
  const pick = (setting: 'baseline' | 'subject', otherwise: string) => {
    const said = s[setting]
    if (said !== undefined && !names.includes(said))
      throw new HypometError('setting-range', `There is no configuration “${said}”: ${names.join(', ')}.`, {
        path: `settings.${setting}`,
      })
    return said ?? otherwise
  }
  return [pick('baseline', names[0]!), pick('subject', names.at(-1)!)]
}
