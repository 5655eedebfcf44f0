import { CONTROLS, HAZARDS, type ControlId } from './hazardCatalogue'
import * as z from 'zod'
import { stop, type Finding } from './finding'
import type { LoadingHazard } from './loading/loading'

/** What the plan says of a hazard: its controls, or one that people add themselves. */
export const hazardAnswers = z
  .record(
    z.string(),
    z.object({
      controls: z.array(z.enum(Object.keys(CONTROLS) as [ControlId, ...ControlId[]])).default([]),
      other: z.string().default(''),
      note: z.string().default(''),
    }),
  )
  .default({})

export const furtherHazards = z
  .array(
    z.object({
      title: z.string().min(1, 'A hazard needs a name.').meta({ title: 'Hazard' }),
      control: z.string().default('').meta({ title: 'What is done about it' }),
    }),
  )
  .default([])

export interface HazardView {
  id: string
  title: string
  /** J and m; null where energy is not what makes it dangerous. */
  energy: number | null
  standoff: number | null
  why: string
  suggested: readonly ControlId[]
  controls: readonly ControlId[]
  other: string
  note: string
}

type Answers = z.output<typeof hazardAnswers>

/** Hazards of the loading and those that people added, with what is done about each. */
export function hazardViews(
  found: readonly LoadingHazard[],
  answers: Answers,
  further: z.output<typeof furtherHazards>,
): HazardView[] {
  const own = found.map((h): HazardView => {
    const a = answers[h.id]
    return {
      ...h,
      title: HAZARDS[h.id].title,
      suggested: HAZARDS[h.id].controls,
      controls: a?.controls ?? [],
      other: a?.other ?? '',
      note: a?.note ?? '',
    }
  })
  return [
    ...own,
    ...further.map((f, i): HazardView => ({
      id: `further.${i}`,
      title: f.title,
      energy: null,
      standoff: null,
      why: 'Added to this plan.',
      suggested: [],
      controls: [],
      other: f.control,
      note: '',
    })),
  ]
}

export const isControlled = (h: HazardView): boolean => h.controls.length > 0 || h.other.trim() !== ''

/** A hazard without a control keeps the plan from being released. */
export const hazardFindings = (hazards: readonly HazardView[]): Finding[] =>
  hazards
    .filter(h => !isControlled(h))
    .map(h =>
      stop(
        'no-control',
        `hazards.${h.id}`,
        `${h.title}: nothing is done about it yet.`,
        h.suggested.length > 0
          ? `Choose at least one of: ${h.suggested.map(c => CONTROLS[c].title.toLowerCase()).join(', ')}.`
          : 'Say what is done about it.',
      ),
    )
