import { campaignBySlug, scheduleFrame } from '../../../db/campaigns/campaigns'
import { listRows } from '../../../db/registers/service'
import { iCalendar } from '../../../reports/calendar'

/** Dates of a campaign as a calendar. */
export default defineRoute(async event => {
  const { read } = useServices().database
  const campaign = await campaignBySlug(read, getRouterParam(event, 'slug')!)
  const { rows } = await listRows(read, 'task', campaign.id)
  setResponseHeaders(event, {
    'content-type': 'text/calendar; charset=utf-8',
    'content-disposition': `attachment; filename="${campaign.slug}.ics"`,
  })
  return iCalendar(campaign, scheduleFrame(campaign), rows, new Date())
})
