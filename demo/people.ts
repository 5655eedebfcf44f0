/* The five people of Varnholt Ropeway Works. All names are invented. */

export const people = [
  { name: 'Mara Lindqvist', role: 'engineer', note: 'Leads the campaign; load and vibration' },
  { name: 'Jonte Ahrens', role: 'technician', note: 'Rig, gauges, logger' },
  { name: 'Silje Brandt', role: 'technician', note: 'Fixtures and the seam press' },
  { name: 'Oskar Venn', role: 'engineer', note: 'Drives, winch, inverter' },
  { name: 'Dr. Ilka Torv', role: 'reviewer', note: 'Signs the reports' },
] as const

export const actions = [
  { question: 'Does the platform gap of 82 mm hold with snow on the hut’s sill?', owner: 'Mara Lindqvist', inDays: 9, review: 'Design review 2', limit: 'Hanger arm: Service deflection' },
  { question: 'Who rides along when the hired rig comes back?', owner: 'Jonte Ahrens', inDays: 16, review: 'Bench talk', answer: 'Silje; booked with the hire bay.' },
  { question: 'Can the mould take a cap of 4 mm without a new core?', owner: 'Silje Brandt', inDays: -3, review: 'Design review 2', revision: 'Hanger arm B' },
  { question: 'Is the supplier’s braid from the same lot as the tubes that were crushed?', owner: 'Oskar Venn', inDays: 20, review: 'Buffer talk', revision: 'Buffer tube B' },
] as const
