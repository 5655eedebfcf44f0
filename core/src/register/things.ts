import { HypometError } from '../error'
import { checkOwnUnits } from '../quantity/index'
import { CONVENTION_CHOICES } from './limits'
import type { Fact } from './facts'
import { factsAdded, isFactColumn } from './factColumns'
import { defineRegister } from './register'

export const campaignRegister = defineRegister({
  id: 'campaign',
  one: 'Campaign',
  many: 'Campaigns',
  perCampaign: false,
  name: 'title',
  fields: [
    { key: 'title', title: 'Title', type: 'text', required: true },
    { key: 'purpose', title: 'Purpose', type: 'long', hint: 'What the tests are to show' },
    { key: 'due', title: 'Due', type: 'date' },
    { key: 'startsOn', title: 'Work begins', type: 'date' },
    {
      key: 'workdays',
      title: 'Working days',
      type: 'choice',
      fallback: '12345',
      options: [
        { value: '12345', label: 'Monday to Friday' },
        { value: '123456', label: 'Monday to Saturday' },
        { value: '1234567', label: 'Every day' },
      ],
    },
    { key: 'holidays', title: 'Holidays', type: 'words', hint: '2026-12-25; 2027-01-01' },
    {
      key: 'system',
      title: 'Units shown',
      type: 'choice',
      required: true,
      fallback: 'metric',
      options: [
        { value: 'metric', label: 'kN, mm, MPa' },
        { value: 'imperial', label: 'lbf, in, psi' },
      ],
    },
    {
      key: 'units',
      title: 'Units of its own',
      type: 'words',
      hint: 'Beside those: bar; g; g²/Hz; torque: N·m. Values stay as they are, in SI.',
    },
    {
      key: 'numbers',
      title: 'Numbers are written',
      type: 'choice',
      hint: 'What “5,000” means. Asked once, at the first entry that may be two numbers.',
      options: [
        { value: '', label: 'asked when it matters' },
        { value: 'point', label: '1,234.5' },
        { value: 'comma', label: '1.234,5' },
        { value: 'plain', label: 'without thousands; what may be two is asked each time' },
      ],
    },
    {
      key: 'rule',
      title: 'Decision',
      type: 'choice',
      required: true,
      fallback: 'guarded',
      options: [
        { value: 'guarded', label: 'Guarded: value with its uncertainty' },
        { value: 'simple', label: 'Simple: value alone' },
      ],
    },
    {
      key: 'convention',
      title: 'Margins as',
      type: 'choice',
      required: true,
      fallback: 'margin-of-safety',
      options: CONVENTION_CHOICES,
    },
    { key: 'budget', title: 'Budget', type: 'number', min: 0, money: true },
    { key: 'currency', title: 'Currency', type: 'text', fallback: 'EUR' },
  ],
  check(row) {
    checkOwnUnits((row['units'] as string[] | null) ?? [])
    const odd = (row['holidays'] as string[]).find(h => !/^\d{4}-\d{2}-\d{2}$/.test(h) || Number.isNaN(Date.parse(h)))
    if (odd) throw new HypometError('not-a-date', `“${odd}” is not a date like 2026-12-25.`, { path: 'holidays' })
  },
})

export const articleRegister = defineRegister({
  id: 'article',
  one: 'Article',
  many: 'Articles',
  perCampaign: true,
  name: 'name',
  fields: [
    { key: 'name', title: 'Article', type: 'text', required: true },
    {
      key: 'family',
      title: 'Kind of test',
      type: 'choice',
      required: true,
      fixed: true,
      options: (_, { families }) => families.map(f => ({ value: f.id, label: f.title })),
    },
    { key: 'note', title: 'What it is', type: 'text' },
    { key: 'features', title: 'Features', type: 'words', hint: 'That lessons look for: bonded, braided, thin shell' },
    { key: 'places', title: 'Places', type: 'words', hint: 'Ends, sections, seams, parts: root; splice; tip' },
  ],
})

/** Properties, facts and constants of a revision are checked by those who know the article's family. */
export const revisionRegister = defineRegister({
  id: 'revision',
  one: 'Revision',
  many: 'Revisions',
  perCampaign: true,
  name: 'label',
  fields: [
    { key: 'articleId', title: 'Article', type: 'ref', to: 'article', required: true, fixed: true },
    { key: 'label', title: 'Revision', type: 'text', required: true },
    { key: 'parentId', title: 'Follows', type: 'ref', to: 'revision' },
    { key: 'changed', title: 'What changed', type: 'text' },
    { key: 'why', title: 'Why', type: 'text' },
    { key: 'findingReductionId', title: 'On the finding of', type: 'ref', to: 'finding' },
    { key: 'mass', title: 'Mass', type: 'quantity', kind: 'mass', positive: true },
    { key: 'properties', title: 'Properties', type: 'data', fallback: {} },
    { key: 'facts', title: 'Further facts', type: 'data', fallback: [] },
    { key: 'constants', title: 'Taken from constants', type: 'data', fallback: {} },
  ],
  further: {
    key: 'facts',
    isOne: column => isFactColumn(column),
    add: (kept, column, text, { prefer }) => factsAdded((kept ?? []) as Fact[], column, text, prefer.numbers),
  },
  check(row, { refs }) {
    if (String(row['label']).length > 12)
      throw new HypometError('setting-range', 'A label is short: at most 12 characters.', { path: 'label' })
    const parent = refs['revision']?.find(r => r.id === row['parentId'])
    if (parent && parent.articleId !== row['articleId'])
      throw new HypometError('setting-range', 'This revision is of another article.', { path: 'parentId' })
  },
})

/** The head of a test: what is said of it beside its plan. */
export const testRegister = defineRegister({
  id: 'test',
  one: 'Test',
  many: 'Tests',
  perCampaign: true,
  name: 'title',
  fields: [
    { key: 'revisionId', title: 'Revision', type: 'ref', to: 'revision', required: true, fixed: true },
    { key: 'title', title: 'Test', type: 'text', required: true },
    { key: 'fixture', title: 'Fixture', type: 'text' },
    { key: 'method', title: 'Loaded by', type: 'text' },
    { key: 'plannedOn', title: 'Planned on', type: 'date' },
    { key: 'cost', title: 'Cost', type: 'number', min: 0, money: true },
    { key: 'notes', title: 'Notes', type: 'long', aside: true },
  ],
})
