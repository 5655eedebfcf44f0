import { channelKinds } from '@hypomet/core'
import type { ChannelDraft } from './usePlanDraft'

/**
 * Channels that one thing of the catalogue makes: a rosette three gauges and the principal strains, a pair two readings
 * with their mean and difference.
 */
export function channelsOf(id: string, taken: readonly string[]): ChannelDraft[] {
  const free = (stem: string) => {
    for (let n = 1; ; n++)
      if (!taken.some(t => t === `${stem}${n}` || t.startsWith(`${stem}${n}_`))) return { role: `${stem}${n}`, n }
  }
  if (id === 'derived')
    return [{ role: free('derived').role, label: 'Derived', kind: 'length', sensorId: null, expression: '' }]
  const kind = channelKinds.find(k => k.id === id)!
  const { role, n } = free(kind.id)
  const title = `${kind.title} ${n}`
  const one = (suffix: string, name: string): ChannelDraft => ({
    role: `${role}${suffix}`,
    label: name,
    kind: kind.kind,
    type: kind.id,
    sensorId: null,
    ...(kind.along ? { x: { value: 0, unit: 'm' } } : {}),
  })
  const derived = (suffix: string, name: string, expression: string): ChannelDraft => ({
    role: `${role}${suffix}`,
    label: name,
    kind: kind.kind,
    sensorId: null,
    expression,
  })
  if (id === 'rosette') {
    const [a, b, c] = [`${role}_a`, `${role}_b`, `${role}_c`]
    // A 45° rosette: mean of the outer two, and the radius of its circle. @source Timoshenko & Gere, strain rosettes
    const radius = `sqrt(((${a} - ${b})^2 + (${b} - ${c})^2) / 2)`
    return [
      one('_a', `${title}, 0°`),
      one('_b', `${title}, 45°`),
      one('_c', `${title}, 90°`),
      derived('_max', `${title}, largest`, `(${a} + ${c}) / 2 + ${radius}`),
      derived('_min', `${title}, smallest`, `(${a} + ${c}) / 2 - ${radius}`),
    ]
  }
  if (id === 'pair')
    return [
      one('_a', `${title}, first`),
      one('_b', `${title}, second`),
      derived('_mean', `${title}, mean`, `(${role}_a + ${role}_b) / 2`),
      derived('_turn', `${title}, difference`, `${role}_b - ${role}_a`),
    ]
  return [one('', title)]
}
