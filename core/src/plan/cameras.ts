import * as z from 'zod'
import { cameraFields, seeWith } from '../calc/planning/camera'
import { quantity } from '../method/settings'
import { stop, warn, type Finding } from './finding'

export const cameraField = z.object({
  name: z.string().min(1).meta({ title: 'Camera' }),
  ...cameraFields,
  lasts: quantity('time', { title: 'What it must catch lasts', positive: true }).optional(),
})
export const camerasField = z.array(cameraField).default([]).meta({ title: 'Cameras' })

export type PlannedCamera = z.output<typeof cameraField>

export interface CameraView {
  name: string
  fieldWidth: number
  fieldHeight: number
  metresPerPixel: number
  recordTime: number
  preTime: number
  postTime: number
  places: { name: string; covered: boolean }[]
}

export const cameraViews = (cameras: readonly PlannedCamera[]): CameraView[] =>
  cameras.map(c => ({ name: c.name, ...seeWith(c) }))

/** Somewhere that somebody expects it to fail. */
export interface ExpectedPlace {
  place: string
  by: string
}

/** Where predictions expect it to fail, each place once. */
export const expectedPlaces = (said: readonly { place: string; source: string }[]): ExpectedPlace[] =>
  said
    .filter((p, i) => p.place !== '' && said.findIndex(o => o.place === p.place) === i)
    .map(p => ({ place: p.place, by: p.source }))

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()

/** Every predicted failure place is in a picture, and what happens there fits into the record. */
export function cameraFindings(
  cameras: readonly PlannedCamera[],
  views: readonly CameraView[],
  expected: readonly ExpectedPlace[],
): Finding[] {
  if (cameras.length === 0) return []
  const list: Finding[] = []
  views.forEach((v, i) => {
    const outside = v.places.filter(p => !p.covered).map(p => p.name)
    if (outside.length > 0 && !outside.every(p => views.some(o => o.places.some(q => q.covered && same(q.name, p)))))
      list.push(
        stop(
          'not-covered',
          `cameras.${i}.distance`,
          `Outside the picture of ${v.name}: ${outside.join(', ')}.`,
          'Step back, take a wider lens, or add a camera.',
        ),
      )
    const { lasts } = cameras[i]!
    if (lasts && v.postTime < lasts)
      list.push(
        warn(
          'record-short',
          `cameras.${i}.frameRate`,
          `${v.name} records ${v.postTime.toPrecision(2)} s after its trigger; what it must catch lasts ` +
            `${lasts.toPrecision(2)} s.`,
          'Fewer frames a second, a smaller picture, or a later trigger.',
        ),
      )
  })
  for (const e of expected)
    if (!cameras.some(c => c.places.some(p => same(p.name, e.place))))
      list.push(
        warn(
          'not-looked-at',
          'cameras',
          `Nobody looks at “${e.place}”, where ${e.by} expects it to fail.`,
          'Add the place to a camera, measured from the middle of its picture.',
        ),
      )
  return list
}
