import { nameAlone } from '@hypomet/core'

/** What a channel is called on screen. */
export const channelName = (c: { name: string; role: string }): string => nameAlone(c.name || c.role)
