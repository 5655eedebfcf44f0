export interface LessonTriggers {
  families: readonly string[]
  features: readonly string[]
  fixtures: readonly string[]
  methods: readonly string[]
  words: readonly string[]
}

/** What of a plan triggers are held against. */
export interface PlanTexts {
  /** Kind of test, by its id and its title. */
  family: string
  familyTitle: string
  features: readonly string[]
  fixture: string
  method: string
  /** Every text of the plan: titles, notes, channel labels, the article's name. */
  texts: readonly string[]
}

/**
 * Why a lesson fires on a plan, a reason for each kind of trigger that it has; null where it does not. Of the triggers
 * of
 * one kind any one will do; of the kinds that a lesson names all must fit. Words match from the beginning of a word on,
 * whatever the case: “clamp” is in “Root clamps”.
 *
 * @example
 * firingReasons(
 *   { families: ['static'], features: [], fixtures: ['clamp'], methods: [], words: [] },
 *   { family: 'static', familyTitle: 'Static load', features: [], fixture: 'Root clamp', method: '', texts: [] },
 * ) // ['Static load', 'fixture “clamp”']
 */
export function firingReasons(lesson: LessonTriggers, plan: PlanTexts): string[] | null {
  const family = lesson.families.find(
    f => f.toLowerCase() === plan.family || f.toLowerCase() === plan.familyTitle.toLowerCase(),
  )
  const kinds: [wanted: readonly string[], found: string | undefined, reason: (word: string) => string][] = [
    [lesson.families, family && plan.familyTitle, word => word],
    [lesson.features, lesson.features.find(w => plan.features.some(f => holds(f, w))), word => `feature “${word}”`],
    [lesson.fixtures, lesson.fixtures.find(w => holds(plan.fixture, w)), word => `fixture “${word}”`],
    [lesson.methods, lesson.methods.find(w => holds(plan.method, w)), word => `loading “${word}”`],
    [lesson.words, lesson.words.find(w => plan.texts.some(t => holds(t, w))), word => `the word “${word}”`],
  ]
  const asked = kinds.filter(([wanted]) => wanted.length > 0)
  if (asked.length === 0 || asked.some(([, found]) => found === undefined)) return null
  return asked.map(([, found, reason]) => reason(found!))
}

function holds(text: string, word: string): boolean {
  const [haystack, needle] = [` ${text.toLowerCase()}`, word.trim().toLowerCase()]
  for (let at = haystack.indexOf(needle); needle !== '' && at >= 0; at = haystack.indexOf(needle, at + 1))
    if (!/[\p{L}\p{N}]/u.test(haystack[at - 1]!)) return true
  return false
}
