import { runCalc, scheduleSetup, type Row, type ScheduleFrame } from '@hypomet/core'

interface CalendarCampaign {
  slug: string
  title: string
}

/**
 * A campaign's tasks as all-day events.
 *
 * @source RFC 5545: events by DATE end on the day after their last; lines fold at 75 octets
 */
export function iCalendar(
  campaign: CalendarCampaign,
  frame: ScheduleFrame,
  tasks: readonly Row[],
  stamp: Date,
): string {
  const { tables } =
    tasks.length === 0
      ? { tables: {} as ReturnType<typeof runCalc>['tables'] }
      : runCalc(scheduleSetup(tasks, frame, 1), null)
  const [starts, finishes] = ['startDate', 'finishDate'].map(c => (tables['tasks']?.columns[c] ?? []) as string[])
  const at = stamp.toISOString().replace(/[-:]|\.\d+/g, '')
  const event = (uid: string, from: string, to: string, summary: string, description: string) => [
    'BEGIN:VEVENT',
    `UID:${uid}@${campaign.slug}`,
    `DTSTAMP:${at}`,
    `DTSTART;VALUE=DATE:${plain(from)}`,
    `DTEND;VALUE=DATE:${plain(dayAfter(to))}`,
    `SUMMARY:${escaped(summary)}`,
    ...(description ? [`DESCRIPTION:${escaped(description)}`] : []),
    'END:VEVENT',
  ]
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Hypomet//Schedule//EN',
    `X-WR-CALNAME:${escaped(campaign.title)}`,
    ...tasks.flatMap((t, i) =>
      event(
        `task-${String(t['id'])}`,
        starts![i]!,
        finishes![i]!,
        String(t['name']),
        t['resource'] ? `By ${String(t['resource'])}` : '',
      ),
    ),
    ...(frame.due ? event('due', frame.due, frame.due, `${campaign.title}: due`, '') : []),
    'END:VCALENDAR',
  ]
  return lines.map(folded).join('\r\n') + '\r\n'
}

const plain = (date: string): string => date.replaceAll('-', '')

const dayAfter = (date: string): string =>
  new Date(Date.parse(`${date}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10)

const escaped = (text: string): string =>
  text
    .replace(/\\/g, '\\\\')
    .replace(/[;,]/g, c => `\\${c}`)
    .replace(/\n/g, '\\n')

/** At most 75 octets a line; further ones begin with a blank. */
function folded(line: string): string {
  const parts: string[] = []
  let part = ''
  for (const c of line) {
    if (Buffer.byteLength(part + c) > (parts.length === 0 ? 75 : 74)) {
      parts.push(part)
      part = ''
    }
    part += c
  }
  return [...parts, part].join('\r\n ')
}
