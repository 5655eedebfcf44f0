import { defineRegister } from './register'

/** Questions that reviews leave behind: who answers, by when, and what the answer was. */
export const actionRegister = defineRegister({
  id: 'action',
  one: 'Action',
  many: 'Actions',
  perCampaign: true,
  name: 'question',
  fields: [
    { key: 'question', title: 'Question', type: 'text', required: true },
    { key: 'ownerId', title: 'Owner', type: 'ref', to: 'person' },
    { key: 'due', title: 'Due', type: 'date' },
    { key: 'answer', title: 'Answer', type: 'long' },
    { key: 'review', title: 'From', type: 'text', hint: 'The review or talk it comes from' },
    { key: 'limitId', title: 'Limit', type: 'ref', to: 'limit' },
    { key: 'testId', title: 'Test', type: 'ref', to: 'test' },
    { key: 'revisionId', title: 'Revision', type: 'ref', to: 'revision' },
  ],
})
