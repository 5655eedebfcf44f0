import * as z from 'zod'
import { createCampaign } from '../../db/campaigns/campaigns'

/** A new campaign. */
export default defineRoute(
  {
    body: z.object({
      title: z.string().trim().min(1, 'A campaign needs a title.'),
      purpose: z.string().default(''),
      due: z.iso.date().nullable().default(null),
      system: z.enum(['metric', 'imperial']).default('metric'),
      rule: z.enum(['guarded', 'simple']).default('guarded'),
      convention: z.enum(['margin-of-safety', 'reserve-factor', 'factor-of-safety']).default('margin-of-safety'),
      budget: z.number().min(0).nullable().default(null),
      currency: z.string().default('EUR'),
    }),
  },
  (event, { body }) => createCampaign(useServices().database, personOf(event), body),
)
