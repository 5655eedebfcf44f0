import { dayAfter, runCalc, scheduleSetup, type Row, type ScheduleFrame } from '@hypomet/core'
import ical, { escape } from 'ical-generator'

interface CalendarCampaign {
  slug: string
  title: string
}

/** A campaign's tasks and its due date as all-day events, which end on the day after their last (RFC 5545). */
export function iCalendar(
  campaign: CalendarCampaign,
  frame: ScheduleFrame,
  tasks: readonly Row[],
  stamp: Date,
): string {
  const placed = tasks.length > 0 ? runCalc(scheduleSetup(tasks, frame, 1), null).tables['tasks'] : null
  const [starts, finishes] = ['startDate', 'finishDate'].map(c => (placed?.columns[c] ?? []) as string[])
  // The package escapes what events say, and not the calendar's own name.
  const calendar = ical({ name: escape(campaign.title, false), prodId: '//Hypomet//Schedule//EN' })
  const event = (uid: string, from: string, to: string, summary: string, description?: string) =>
    calendar.createEvent({
      id: `${uid}@${campaign.slug}`,
      stamp,
      start: midnight(from),
      end: midnight(dayAfter(to)),
      allDay: true,
      summary,
      ...(description && { description }),
    })
  tasks.forEach((t, i) =>
    event(
      `task-${String(t['id'])}`,
      starts![i]!,
      finishes![i]!,
      String(t['name']),
      t['resource'] ? `By ${String(t['resource'])}` : '',
    ),
  )
  if (frame.due) event('due', frame.due, frame.due, `${campaign.title}: due`)
  return calendar.toString()
}

/** The package writes days in UTC. */
const midnight = (day: string): Date => new Date(`${day}T00:00:00Z`)
