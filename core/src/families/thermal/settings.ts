import { issue, quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const settings = z
  .object({
    window: timeWindow('Approach'),
    ambient: quantity('temperature', { title: 'Ambient' }),
    limit: quantity('temperature', { title: 'Not above' }),
  })
  .transform((s, ctx) => {
    if (!(s.ambient > 0)) issue(ctx, 'setting-range', 'A temperature lies above absolute zero.', ['ambient'])
    if (!(s.limit > s.ambient)) issue(ctx, 'setting-range', 'The limit must lie above the ambient.', ['limit'])
    return s
  })

export type ThermalSettings = z.output<typeof settings>
