import { describe, expect, it } from 'vitest'
import {
  checkKnownFacts,
  factOf,
  families,
  formOf,
  HypometError,
  isHypometError,
  knownBy,
  knownFactsOf,
  loadings,
  namesOf,
  planningOf,
  revisionWith,
  type Fact,
  type LoadingKind,
} from '../index'
import { factsByName } from './knownFacts'

const ids = Object.keys(families)
const fact = (name: string, value: Fact['value']): Fact => ({ group: 'Other', name, value })
const keysOf = (schema: Parameters<typeof formOf>[0] | null): string[] => {
  const form = schema ? formOf(schema) : null
  return form?.type === 'group' ? form.fields.map(f => f.key) : []
}

describe('facts that a kind of test knows', () => {
  it.each(ids)('%s: each has a name of its own, and fills fields that are there, of its own kind', id => {
    const known = knownFactsOf(id)
    const names = known.flatMap(namesOf)
    expect(new Set(names).size).toBe(names.length)
    expect(new Set(known.map(k => k.key)).size).toBe(known.length)
    const [plan, settings] = [keysOf(planningOf(id).own), keysOf(families[id]!.settings)]
    for (const k of known) {
      for (const key of k.plan ?? []) expect(plan, `${k.title} in the plan`).toContain(key)
      for (const key of k.settings ?? []) expect(settings, `${k.title} in the reduction`).toContain(key)
      for (const [kind, key] of Object.entries(k.loading ?? {})) {
        expect(planningOf(id).loadings).toContain(kind)
        const form = formOf(loadings[kind as LoadingKind].settings)
        const field = form.type === 'group' ? form.fields.find(f => f.key === key) : undefined
        expect(field, `${k.title} in ${kind}`).toMatchObject({ type: 'quantity', kind: k.kind })
      }
    }
  })

  it.each(ids)('%s: what changes are sized by is a fact that the form shows, under that name', id => {
    const laws = families[id]!.stages.sizing?.laws ?? []
    for (const law of laws) {
      const shown = knownFactsOf(id).find(k => k.title === law.label)
      expect([shown?.kind, shown?.title.toLowerCase()]).toEqual([law.kind, law.fact])
      if (law.mass?.part) expect(knownBy(law.mass.part, knownFactsOf(id))?.kind).toBe('mass')
    }
  })

  it('go by any of their names; a title comes before another fact’s further name', () => {
    const known = knownFactsOf('drop')
    expect(knownBy('  Wall   thickness ', known)?.title).toBe('Wall of the buffer')
    const facts = [fact('buffer wall', { value: 2.6, unit: 'mm' }), fact('Wall', 'anodised')]
    expect(factOf(facts, knownBy('wall', known)!)).toBe(facts[0])
    expect(factsByName(facts, known)).toEqual({ 'wall of the buffer': 0.0026, wall: 'anodised' })
  })

  it('are refused where they are no such quantity, and left where they are words of somebody’s own', () => {
    const refusal = (f: Fact) => {
      try {
        checkKnownFacts([f], knownFactsOf('burst'))
        return null
      } catch (e) {
        if (!isHypometError(e)) throw e
        return `${e.code} at ${e.place.path}: ${e.message}`
      }
    }
    expect(refusal(fact('Inner radius', { value: 5, unit: 'kg' }))).toBe(
      'unit-dimension at facts.0: “Inner radius” is a length (m); 5 kg is not.',
    )
    expect(refusal(fact('Radius', 210))).toContain('unit-dimension')
    expect(refusal(fact('Radius', { value: 0, unit: 'mm' }))).toContain('“Radius” must be above zero.')
    expect(refusal(fact('Radius', 'large'))).toBeNull()
    expect(refusal(fact('Seam press', { value: 2, unit: 'm' }))).toBeNull()
    expect(() => checkKnownFacts([fact('Vent', { value: 0, unit: 'mm' })], knownFactsOf('descent'))).not.toThrow()
    expect(() => checkKnownFacts([fact('Vent', { value: -1, unit: 'mm' })], knownFactsOf('descent'))).toThrowError(
      HypometError,
    )
  })

  it('keep name and unit when a change moves them, and the mass of their piece goes along', () => {
    const facts = [fact('Wall thickness', { value: 2.6, unit: 'mm' }), fact('Buffer mass', { value: 860, unit: 'g' })]
    const input = { family: 'drop', revision: { label: 'A', properties: {}, facts, results: {} } }
    expect(revisionWith(input, { wall: 0.0039 }).facts).toEqual([
      fact('Wall thickness', { value: 3.9, unit: 'mm' }),
      fact('Buffer mass', { value: 1290, unit: 'g' }),
    ])
  })
})
