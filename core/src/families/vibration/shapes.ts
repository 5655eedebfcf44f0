import { tableOf } from '../../calc/answer'
import { assurance } from '../../calc/models/modalAssurance'
import { HypometError } from '../../error'
import type { ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import type { FrequencyResponse } from '../../signal/welch'
import type { VibrationSettings } from './settings'
import type { Mode } from './mode'

/**
 * Shapes of the first response's modes over all responses, from their frequency responses at its peaks: turned to the
 * phase at
 * which they are largest and scaled to one; beside a model's shapes by MAC.
 */
export function modeShapes(
  { points, shapes }: VibrationSettings,
  spectra: readonly ({ channel: string } & Pick<FrequencyResponse, 'h1'>)[],
  modes: readonly Mode[],
): { tables: Record<string, ResultTable>; warnings: Warning[] } {
  if (spectra.length < 2 || modes.length === 0)
    return {
      tables: {},
      warnings:
        shapes && shapes.length > 0
          ? [{ code: 'few-responses', message: 'A shape needs at least two responses and a mode.' }]
          : [],
    }
  const measured = modes.map(m => realShape(spectra.map(r => [r.h1.re[m.bin]!, r.h1.im[m.bin]!])))
  const place = (channel: string) => points?.find(p => p.channel === channel)
  const rows = modes.flatMap((m, k) =>
    spectra.map((r, i) => ({
      mode: k + 1,
      frequency: m.frequency,
      channel: r.channel,
      x: place(r.channel)?.x ?? null,
      y: place(r.channel)?.y ?? null,
      value: measured[k]![i]!,
    })),
  )
  const mac = (shapes ?? []).flatMap((model, j) => {
    if (model.values.length !== spectra.length)
      throw new HypometError(
        'setting-range',
        `A shape holds a value for each of the ${spectra.length} responses; this one has ${model.values.length}.`,
        { path: `settings.shapes.${j}.values` },
      )
    return modes.map((m, k) => ({
      mode: k + 1,
      frequency: m.frequency,
      model: j + 1,
      predicted: model.frequency ?? null,
      mac: assurance(measured[k]!, model.values),
    }))
  })
  return {
    tables: {
      shapes: tableOf(rows, { mode: '1', frequency: 'Hz', channel: '', x: 'm', y: 'm', value: '1' }),
      ...(mac.length > 0
        ? { mac: tableOf(mac, { mode: '1', frequency: 'Hz', model: '1', predicted: 'Hz', mac: '1' }) }
        : {}),
    },
    warnings: [],
  }
}

/** A complex shape turned by the one angle that leaves the least of it imaginary, its largest value one. */
export function realShape(values: readonly (readonly [number, number])[]): number[] {
  const [re, im] = values.reduce(([a, b], [x, y]) => [a + x * x - y * y, b + 2 * x * y], [0, 0])
  const turn = Math.atan2(im, re) / 2
  const real = values.map(([x, y]) => x * Math.cos(turn) + y * Math.sin(turn))
  const largest = real.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0) || 1
  return real.map(v => v / largest)
}
