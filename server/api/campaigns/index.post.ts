import * as z from 'zod'
import { createCampaign } from '../../db/campaigns'

const body = z.object({
  title: z.string().trim().min(1, 'A campaign needs a title.'),
  purpose: z.string().default(''),
  due: z.iso.date().nullable().default(null),
  system: z.enum(['metric', 'imperial']).default('metric'),
  rule: z.enum(['guarded', 'simple']).default('guarded'),
  convention: z.enum(['margin-of-safety', 'reserve-factor']).default('margin-of-safety'),
  materials: z.array(z.unknown()).default([]),
})

export default defineRoute(async event => createCampaign(useServices().database, personOf(event), await bodyOf(event, body)))
