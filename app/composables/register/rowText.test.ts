import { familyOutlines, IMPERIAL, METRIC, registers, type Register, type RegisterContext } from '@hypomet/core'
import { describe, expect, it } from 'vitest'
import { formFields, readTexts, refusalOf, textsOf } from './rowText'

const context = (prefer: RegisterContext['prefer']): RegisterContext => ({
  refs: {
    person: [{ id: 1, label: 'Ada' }],
    article: [{ id: 3, label: 'Hanger arm', family: 'static', articleId: 3 }],
  },
  prefer,
  families: familyOutlines,
})
const limit = registers['limit'] as Register
const row = {
  articleId: 3,
  name: 'Design load',
  quantity: 'maxLoad',
  comparator: 'atLeast',
  entered: { value: 3.2, unit: 'kN' },
  level: 'limit',
  factor: 1.5,
  state: 'in-force',
}

describe('a row as texts', () => {
  it.each([METRIC, IMPERIAL])('reads back as it was written', prefer => {
    const texts = textsOf(limit, row, context(prefer))
    const { row: again, problems } = readTexts(limit, texts, {}, context(prefer))
    expect(problems).toEqual({})
    expect(again).toMatchObject({ name: 'Design load', quantity: 'maxLoad', factor: 1.5, articleId: 3 })
    expect(again['entered']).toEqual({ value: 3.2, unit: 'kN' })
    expect(Object.keys(texts)).toEqual(formFields(limit).map(f => f.key))
  })

  it('names each field that cannot be read, and reads the others', () => {
    const texts = { ...textsOf(limit, row, context(METRIC)), entered: '3.2 parsnips', factor: 'some' }
    const { row: read, problems } = readTexts(limit, texts, row, context(METRIC))
    expect(Object.keys(problems).sort()).toEqual(['entered', 'factor'])
    expect(read['name']).toBe('Design load')
  })

  it('says which field has to be chosen before a value means anything', () => {
    const { problems } = readTexts(limit, { entered: '3 kN' }, { articleId: 3 }, context(METRIC))
    expect(problems['entered']).toContain('“Result”')
  })

  it('is refused at the field that does not hold', () => {
    expect(refusalOf(limit, row, context(METRIC))).toBeNull()
    expect(refusalOf(limit, { ...row, factor: 0 }, context(METRIC))).toMatchObject({
      code: 'setting-range',
      place: { path: 'factor' },
    })
    expect(refusalOf(limit, { ...row, entered: { value: 3, unit: 'mm' } }, context(METRIC))?.place.path).toBe('entered')
  })
})
