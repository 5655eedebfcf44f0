import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { quantity } from '../../method/settings'
import { largestWave, wavesAround } from '../../signal/circumference'
import { exact, tableOf } from '../answer'

const settings = z.object({
  sameHeight: quantity('length', { title: 'Heights count as one within', positive: true }).default(0.005),
})

/** Below so many places a ring tells no wave that dents a shell. */
const FEWEST = 5

/**
 * Waves around a shell from a displacement field: places on rings by angle and height, each ring's waves by least
 * squares.
 *
 * @throws HypometError `data-range` where no ring has five places
 */
export const fieldWaves = defineCalc({
  id: 'field-waves',
  title: 'Waves of a field',
  purpose: 'Waves around a shell from a measured displacement field, ring by ring',
  version: '1.0.0',
  settings,
  roles: {
    angle: { label: 'Angle around', kind: 'angle' },
    displacement: { label: 'Displacement, outward', kind: 'length' },
    height: { label: 'Height', kind: 'length', optional: true },
  },
  example: { sameHeight: { value: 5, unit: 'mm' } },
  labels: { waveNumber: 'Waves around', amplitude: 'Amplitude of that wave', atHeight: 'At height', places: 'Places' },
  calculate({ sameHeight }, { channels }) {
    const { angle, displacement, height } = channels as {
      angle: Float64Array
      displacement: Float64Array
      height?: Float64Array
    }
    const order = Array.from(angle.keys()).sort((a, b) => (height?.[a] ?? 0) - (height?.[b] ?? 0))
    const rings: number[][] = []
    for (const i of order) {
      const ring = rings.at(-1)
      if (ring && (height?.[i] ?? 0) - (height?.[ring[0]!] ?? 0) <= sameHeight) ring.push(i)
      else rings.push([i])
    }
    const told = rings
      .filter(r => r.length >= FEWEST)
      .map(ring => {
        const waves = wavesAround(
          ring.map(i => angle[i]!),
          ring.map(i => displacement[i]!),
        )
        const largest = largestWave(waves)!
        return {
          height: height ? ring.reduce((s, i) => s + height[i]!, 0) / ring.length : null,
          places: ring.length,
          waveNumber: largest.number,
          amplitude: largest.amplitude,
          crest: largest.phase,
          highestTold: waves.length - 1,
        }
      })
    if (told.length === 0)
      throw new HypometError('data-range', `No ring has ${FEWEST} places: fewer tell no wave that dents a shell.`, {
        path: 'channels.angle',
      })
    const most = told.reduce((a, b) => (b.amplitude > a.amplitude ? b : a))
    return {
      results: {
        waveNumber: exact(most.waveNumber, '1'),
        amplitude: exact(most.amplitude, 'm'),
        ...(most.height === null ? {} : { atHeight: exact(most.height, 'm') }),
      },
      tables: {
        rings: tableOf(told, {
          height: 'm',
          places: '1',
          waveNumber: '1',
          amplitude: 'm',
          crest: 'rad',
          highestTold: '1',
        }),
      },
      warnings:
        most.waveNumber === most.highestTold
          ? [
              {
                code: 'ring-too-few',
                message:
                  `The largest wave is the highest that ${most.places} places can tell: there may be more ` +
                  `waves, which look like this one.`,
              },
            ]
          : [],
    }
  },
})
