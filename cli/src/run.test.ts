import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { run } from './run'

const folder = mkdtempSync(join(tmpdir(), 'hypomet-cli-'))
const file = (name: string, text: string) => {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}
const rows = Array.from(
  { length: 60 },
  (_, i) => `${i},${i < 10 ? 0 : Math.min(50, i - 9)},${i < 10 ? 0 : Math.min(50, i - 9) / 10}`,
).join('\n')
const data = file('data.csv', `t,F,w\ns,N,mm\n${rows}\n`)
const setup = (change: object = {}) =>
  file(
    'setup.json',
    JSON.stringify({
      family: 'static',
      channels: {
        t: { column: 't', unit: 's' },
        load: { column: 'F', unit: 'N' },
        deflection: { column: 'w', unit: 'mm' },
      },
      settings: { zeroStart: [0, 9], designLoad: 20, holdTolerance: 0.5 },
      ...change,
    }),
  )

describe('the command', () => {
  it('prints a reduction in SI and nothing else', () => {
    const { exit, stdout, stderr } = run(['reduce', setup(), '--data', data])
    expect([exit, stderr]).toEqual([0, ''])
    expect(JSON.parse(stdout)).toMatchObject({
      family: 'static',
      method: 'static',
      results: {
        stiffness: { unit: 'N/m', bound: 'exact' },
        maxLoad: { value: 50, unit: 'N', bound: 'atLeast' },
        deflectionAtDesign: { value: expect.closeTo(0.002, 12) as number },
      },
    })
  })

  it('says what is wrong with code and path, on stderr, with exit code 2', () => {
    const wrong = (args: string[]) => {
      const { exit, stdout, stderr } = run(args)
      expect([exit, stdout]).toEqual([2, ''])
      const { error } = JSON.parse(stderr) as { error: { code: string; path: string } }
      return [error.code, error.path]
    }
    expect(wrong(['reduce', setup({ family: 'juggle' }), '--data', data])).toEqual(['unknown-family', 'family'])
    expect(wrong(['reduce', setup({ settings: { designLoad: 20, holdTolerance: 1 } }), '--data', data])).toEqual([
      'missing-setting',
      'settings.zeroStart',
    ])
    expect(
      wrong(['reduce', setup({ settings: { zeroStart: [0, 9], designLoad: 0, holdTolerance: 1 } }), '--data', data]),
    ).toEqual(['setting-range', 'settings.designLoad'])
    expect(
      wrong([
        'reduce',
        setup({ settings: { zeroStart: [0, 9], designLoad: { value: 1, unit: 'stone' }, holdTolerance: 1 } }),
        '--data',
        data,
      ]),
    ).toEqual(['unit-unknown', 'settings.designLoad'])
    expect(wrong(['reduce', setup(), '--data', file('empty.csv', '')])).toEqual(['empty-file', ''])
    expect(wrong(['calc', file('calc.json', '{"calc":"juggle"}')])).toEqual(['unknown-calc', 'calc'])
    expect(wrong(['reduce', join(folder, 'absent.json')])[0]).toBe('file-missing')
    expect(wrong(['dance'])[0]).toBe('usage')
  })

  it('describes a method as JSON Schema', () => {
    const schema = JSON.parse(run(['methods', 'static']).stdout) as {
      properties: { settings: { required: string[] }; channels: { required: string[] } }
    }
    expect(schema.properties.channels.required).toEqual(['t', 'load', 'deflection'])
    expect(schema.properties.settings.required).toEqual(['zeroStart', 'holdTolerance'])
    expect((JSON.parse(run(['methods']).stdout) as { name: string }[]).map(m => m.name)).toEqual(
      expect.arrayContaining(['static', 'beam', 'stored-energy', 'signal-welch', 'uncertainty']),
    )
  })
})
