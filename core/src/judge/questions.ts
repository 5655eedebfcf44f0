import { HypometError } from '../error'
import type { Validity } from './decide'

/** What is asked of a test before its verdicts are signed. */
export const QUESTIONS = [
  { key: 'planned', text: 'Was the test what was planned?' },
  { key: 'redundancy', text: 'Did redundant channels agree?' },
  { key: 'calibration', text: 'Was every sensor in calibration, and within its range?' },
  { key: 'record', text: 'Is the data complete?' },
] as const

export type QuestionKey = (typeof QUESTIONS)[number]['key']

export interface Answer {
  says: 'yes' | 'no'
  note: string
}

/** What the record itself says to a question: things that stand against it, in sentences. */
export type Evidence = Record<QuestionKey, { against: string[]; for: string[] }>

/**
 * A verdict is signed by somebody, with every question answered; a no leaves no test without remarks, and wants its
 * reason.
 *
 * @throws HypometError `missing-setting` at `answers.<key>`, `validity-contradicts` at `validity`
 */
export function checkAnswers(answers: Readonly<Partial<Record<string, Answer>>>, validity: Validity): void {
  for (const { key, text } of QUESTIONS) {
    const answer = answers[key]
    if (!answer) throw new HypometError('missing-setting', `“${text}” is not answered.`, { path: `answers.${key}` })
    if (answer.says === 'no' && answer.note.trim() === '')
      throw new HypometError(
        'missing-setting',
        `“${text}” was answered with no: say what that means for the results.`,
        { path: `answers.${key}` },
      )
  }
  if (validity === 'valid' && Object.values(answers).some(a => a?.says === 'no'))
    throw new HypometError(
      'validity-contradicts',
      'A question was answered with no: the test counts with remarks, or not at all.',
      { path: 'validity' },
    )
}
