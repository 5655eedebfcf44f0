import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { issue, plain, quantity } from '../../method/settings'
import { exact, tableOf } from '../answer'

const length = (title: string) => quantity('length', { title, positive: true })
export const cameraFields = {
  sensorWidth: length('Sensor width'),
  sensorHeight: length('Sensor height'),
  pixelsWide: plain({ title: 'Pixels wide', positive: true, whole: true }),
  pixelsHigh: plain({ title: 'Pixels high', positive: true, whole: true }),
  focalLength: length('Focal length'),
  distance: length('Distance'),
  frameRate: quantity('frequency', { title: 'Frame rate', positive: true }),
  bytesPerPixel: quantity('bytes', { title: 'Bytes a pixel', positive: true }),
  memory: quantity('bytes', { title: 'Memory', positive: true }),
  preFraction: plain({ title: 'Share before the trigger', min: 0, max: 1 }).default(0.5),
  places: z
    .array(
      z.object({
        name: z.string().meta({ title: 'Place' }),
        x: quantity('length', { title: 'x' }),
        y: quantity('length', { title: 'y' }),
      }),
    )
    .default([])
    .meta({ title: 'Predicted failure places, from the middle' }),
}

const settings = z.object(cameraFields).superRefine((s, ctx) => {
  if (!(s.distance > s.focalLength))
    issue(ctx, 'setting-range', 'The camera must stand further off than its focal length.', ['distance'])
})

/** Field, scale and record time of a camera, and which places are in its picture. m, s. */
export function seeWith(s: z.output<typeof settings>) {
  const scale = (s.distance - s.focalLength) / s.focalLength
  const [fieldWidth, fieldHeight] = [s.sensorWidth * scale, s.sensorHeight * scale]
  const recordTime = s.memory / (s.pixelsWide * s.pixelsHigh * s.bytesPerPixel * s.frameRate)
  return {
    fieldWidth,
    fieldHeight,
    metresPerPixel: fieldWidth / s.pixelsWide,
    recordTime,
    preTime: recordTime * s.preFraction,
    postTime: recordTime * (1 - s.preFraction),
    places: s.places.map(p => ({
      name: p.name,
      covered: Math.abs(p.x) <= fieldWidth / 2 && Math.abs(p.y) <= fieldHeight / 2,
    })),
  }
}

/** What a camera sees, how finely and for how long, and whether the predicted failure places are in its picture. */
export const camera = defineCalc({
  id: 'camera',
  title: 'Camera',
  purpose: 'Field, resolution, record time, and whether the failure will be in the picture',
  version: '1.0.0',
  settings,
  example: {
    sensorWidth: { value: 12.8, unit: 'mm' },
    sensorHeight: { value: 8, unit: 'mm' },
    pixelsWide: 1280,
    pixelsHigh: 800,
    focalLength: { value: 25, unit: 'mm' },
    distance: 1.8,
    frameRate: { value: 5, unit: 'kHz' },
    bytesPerPixel: 1.25,
    memory: { value: 16, unit: 'GB' },
    places: [
      { name: 'root', x: -0.35, y: 0.02 },
      { name: 'tip', x: 0.5, y: 0.1 },
    ],
  },
  calculate(s) {
    const seen = seeWith(s)
    const outside = seen.places.filter(p => !p.covered).map(p => p.name)
    return {
      results: {
        fieldWidth: exact(seen.fieldWidth, 'm'),
        fieldHeight: exact(seen.fieldHeight, 'm'),
        metresPerPixel: exact(seen.metresPerPixel, 'm'),
        recordTime: exact(seen.recordTime, 's'),
        preTime: exact(seen.preTime, 's'),
        postTime: exact(seen.postTime, 's'),
        covered: exact(seen.places.length - outside.length, '1'),
      },
      tables: {
        places: tableOf(
          seen.places.map(p => ({ name: p.name, covered: p.covered ? 1 : 0 })),
          { name: '1', covered: '1' },
        ),
      },
      warnings:
        outside.length > 0 ? [{ code: 'not-covered', message: `Outside the picture: ${outside.join(', ')}.` }] : [],
    }
  },
})

const volumeSettings = z.object({
  groups: z
    .array(
      z.object({
        channels: plain({ title: 'Channels', positive: true, whole: true }),
        rate: quantity('frequency', { title: 'Rate', positive: true }),
        bytes: quantity('bytes', { title: 'Bytes a sample', positive: true }),
      }),
    )
    .min(1)
    .meta({ title: 'Groups of channels' }),
  duration: quantity('time', { title: 'Duration', positive: true }),
  network: quantity('byteRate', { title: 'Network', positive: true }).optional(),
  disk: quantity('bytes', { title: 'Disk', positive: true }).optional(),
})

/** Use of a store or a line beyond which there is no room for what was not planned. */
const FULL = 0.9

/** Bytes a second and in all, against network and disk. */
export const dataVolume = defineCalc({
  id: 'data-volume',
  title: 'Data volume',
  purpose: 'Bytes by rate and duration, against network and disk',
  version: '1.0.0',
  settings: volumeSettings,
  example: {
    groups: [
      { channels: 64, rate: 100, bytes: 4 },
      { channels: 8, rate: { value: 50, unit: 'kHz' }, bytes: 2 },
    ],
    duration: { value: 2.5, unit: 'h' },
    network: { value: 10, unit: 'MB/s' },
    disk: { value: 500, unit: 'GB' },
  },
  calculate({ groups, duration, network, disk }) {
    const rate = groups.reduce((s, g) => s + g.channels * g.rate * g.bytes, 0)
    const uses = {
      network: network === undefined ? null : rate / network,
      disk: disk === undefined ? null : (rate * duration) / disk,
    }
    return {
      results: {
        byteRate: exact(rate, 'B/s'),
        volume: exact(rate * duration, 'B'),
        ...Object.fromEntries(
          Object.entries(uses).flatMap(([k, v]) => (v === null ? [] : [[`${k}Utilisation`, exact(v, '1')]])),
        ),
      },
      tables: {},
      warnings: Object.entries(uses).flatMap(([k, v]) =>
        v !== null && v > FULL
          ? [{ code: `${k}-full`, message: `The ${k} is used to ${(100 * v).toFixed(0)} %.` }]
          : [],
      ),
    }
  },
})
