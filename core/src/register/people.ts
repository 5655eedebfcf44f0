import { defineRegister } from './register'

export const ROLES = [
  { value: 'test-lead', label: 'Test lead' },
  { value: 'safety', label: 'Safety' },
  { value: 'engineer', label: 'Engineer' },
  { value: 'technician', label: 'Technician' },
  { value: 'reviewer', label: 'Reviewer' },
]

/** Names for the record; there is no sign-in behind them. */
export const personRegister = defineRegister({
  id: 'person',
  one: 'Person',
  many: 'People',
  perCampaign: false,
  name: 'name',
  fields: [
    { key: 'name', title: 'Name', type: 'text', required: true },
    { key: 'role', title: 'Role', type: 'choice', fallback: 'engineer', options: ROLES },
    { key: 'note', title: 'Note', type: 'text', hint: 'What they may sign for, how to reach them' },
  ],
})
