import { describe, expect, it } from 'vitest'
import { families } from '../index'
import { likenessOfName } from './roleNames'

const load = { role: 'load', label: 'Load', kind: 'force' } as const

describe('a column that says its name', () => {
  it('is a role by its key or label, and likely one by an alias of it or of its kind', () => {
    expect(likenessOfName(load, 'Load [kN]')).toBe(4)
    expect(likenessOfName(load, 'Kraft 1 (N)')).toBe(2)
    expect(likenessOfName(load, 'Weg')).toBe(0)
    expect(likenessOfName({ ...load, aliases: ['pull'] }, 'Kraft')).toBe(0)
  })
  it('leaves a length alone that has no words of its own: a tip is not the frame', () => {
    const frame = { role: 'frame', label: 'Frame', kind: 'length' } as const
    expect(likenessOfName(frame, 'Weg Spitze')).toBe(0)
    expect(likenessOfName({ role: 'deflection', ...families['static']!.roles['deflection']! }, 'Weg Spitze')).toBe(2)
  })
  it('has short names only as whole words: a tilt is no time', () => {
    const t = { role: 'time', label: 'Clock', kind: 'time' } as const
    expect(likenessOfName(t, 'tilt')).toBe(0)
    expect(likenessOfName(t, 't_s')).toBe(2)
    expect(likenessOfName(t, 'Run time')).toBe(2)
  })
  it('never names two roles of one kind of test by the same alias and kind', () => {
    for (const [id, family] of Object.entries(families)) {
      if (!family) continue
      const seen = new Map<string, string>()
      for (const [role, { aliases = [], kind }] of Object.entries(family.roles))
        for (const a of aliases) {
          const key = `${kind} ${a}`
          expect(seen.get(key), `${id}: “${a}” names ${seen.get(key)} and ${role}`).toBeUndefined()
          seen.set(key, role)
        }
    }
  })
})
