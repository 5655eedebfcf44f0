import { HypometError } from '../error'
import { defineRegister } from './register'

/** What went wrong once, what to do instead, and what a plan looks like that should hear of it. */
export const lessonRegister = defineRegister({
  id: 'lesson',
  one: 'Lesson',
  many: 'Lessons',
  perCampaign: false,
  name: 'title',
  fields: [
    { key: 'title', title: 'Lesson', type: 'text', required: true },
    { key: 'happened', title: 'What happened', type: 'long', required: true },
    { key: 'instead', title: 'Do instead', type: 'long', required: true },
    {
      key: 'families',
      title: 'Kinds of test',
      type: 'words',
      suggest: (_, { families }) => families.map(f => f.title),
      hint: 'Triggers: where several are filled, all of them must fit',
    },
    { key: 'features', title: 'Features', type: 'words', hint: 'Of the article: bonded, braided, thin shell' },
    { key: 'fixtures', title: 'Fixtures', type: 'words' },
    { key: 'methods', title: 'Ways of loading', type: 'words' },
    { key: 'words', title: 'Words', type: 'words', hint: 'Anywhere in the plan’s texts' },
    { key: 'source', title: 'From', type: 'text', aside: true },
  ],
  check(row, { families }) {
    const unknown = (row['families'] as string[]).find(
      w => !families.some(f => f.id === w.toLowerCase() || f.title.toLowerCase() === w.toLowerCase()),
    )
    if (unknown)
      throw new HypometError('unknown-family', `There is no kind of test “${unknown}”.`, { path: 'families' })
    if (['families', 'features', 'fixtures', 'methods', 'words'].every(k => (row[k] as string[]).length === 0))
      throw new HypometError(
        'missing-setting',
        'Without a trigger a lesson never fires: say at least one kind of test, feature, fixture, way of ' +
          'loading or word.',
        { path: 'families' },
      )
  },
})

/** How a lesson that fired on a plan was answered. */
export const firingRegister = defineRegister({
  id: 'firing',
  one: 'Answer to a lesson',
  many: 'Answers to lessons',
  perCampaign: true,
  name: 'answer',
  fields: [
    {
      key: 'answer',
      title: 'Answer',
      type: 'choice',
      options: [
        { value: 'applied', label: 'Applied' },
        { value: 'does-not-apply', label: 'Does not apply, because' },
        { value: 'risk-accepted', label: 'Accepted risk, by' },
      ],
    },
    { key: 'reason', title: 'Reason', type: 'text' },
  ],
  check(row) {
    if (row['answer'] === 'does-not-apply' && row['reason'] === '')
      throw new HypometError('missing-reason', 'Say why it does not apply.', { path: 'reason' })
    if (row['answer'] === 'risk-accepted' && row['reason'] === '')
      throw new HypometError('missing-reason', 'Say who accepts the risk.', { path: 'reason' })
  },
})
