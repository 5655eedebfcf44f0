import { worstFirst } from '@hypomet/core'
import type { RecordChannel, RecordPage } from '~/types/api'

export type Grouping = 'none' | 'worst' | 'kind' | 'place' | 'logger'

export type ChannelRow = { group: string; size: number; flagged: number } | { channel: RecordChannel }

/** Where a channel sits: its planned place, else what its name has before the number, which is how crews name them. */
export function placeOf(c: RecordChannel): string {
  if (c.expression !== null) return 'Derived'
  if (c.x !== null) return `x = ${Number(c.x.toPrecision(4))} m`
  const prefix = /^(.*?)[\s_\-./:#]*\d+(?:\D{0,3})$/
    .exec((c.name || c.role).replace(/\s*[[(][^\])]*[\])]\s*$/, ''))?.[1]
    ?.trim()
  return prefix || 'No place given'
}

/** Channels as they come, the worst first, or under headings in the order in which these first come. */
export function grouped(
  channels: RecordChannel[],
  by: Grouping,
  kindName: (c: RecordChannel) => string,
  records: RecordPage['records'],
  closed: ReadonlySet<string>,
): ChannelRow[] {
  if (by === 'none') return channels.map(channel => ({ channel }))
  if (by === 'worst') return worstFirst(channels).map(channel => ({ channel }))
  const of = {
    kind: kindName,
    place: placeOf,
    logger: (c: RecordChannel) => records.find(r => r.id === c.datasetId)?.name ?? '',
  }[by]
  const groups = new Map<string, RecordChannel[]>()
  for (const c of channels) {
    const name = of(c)
    const known = groups.get(name)
    if (known) known.push(c)
    else groups.set(name, [c])
  }
  return [...groups].flatMap(([group, list]) => [
    { group, size: list.length, flagged: list.filter(c => (c.health?.length ?? 0) > 0).length },
    ...(closed.has(group) ? [] : list.map(channel => ({ channel }))),
  ])
}
