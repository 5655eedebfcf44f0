/* The five people of Varnholt Ropeway Works. All names are invented. */

export const people = [
  { name: 'Mara Lindqvist', role: 'test-lead', note: 'Leads the campaign; load and vibration' },
  { name: 'Jonte Ahrens', role: 'technician', note: 'Rig, gauges, logger' },
  { name: 'Silje Brandt', role: 'safety', note: 'Fixtures, the seam press, and who goes where' },
  { name: 'Oskar Venn', role: 'engineer', note: 'Drives, winch, inverter' },
  { name: 'Dr. Ilka Torv', role: 'reviewer', note: 'Signs the reports' },
] as const

export const actions = [
  { question: 'Does the platform gap of 82 mm hold with snow on the hut’s sill?', owner: 'Mara Lindqvist', inDays: 9, review: 'Design review 2', limit: 'Hanger arm: Service deflection' },
  { question: 'Who rides along when the hired rig comes back?', owner: 'Jonte Ahrens', inDays: 16, review: 'Bench talk', answer: 'Silje; booked with the hire bay.' },
  { question: 'Can the mould take a cap of 4 mm without a new core?', owner: 'Silje Brandt', inDays: -3, review: 'Design review 2', revision: 'Hanger arm B' },
  { question: 'Is the supplier’s braid from the same lot as the tubes that were crushed?', owner: 'Oskar Venn', inDays: 20, review: 'Buffer talk', revision: 'Buffer tube B' },
] as const

/** What the season still asks for; days from today where something is booked. */
export const tasks = [
  { name: 'Arm C: mould and lay-up', days: 6, low: 5, high: 10, after: [], resource: 'Silje Brandt', cost: 5200 },
  { name: 'Carriage proof load', days: 1, low: 1, high: 2, after: [], resource: 'Rig 1', bookedIn: 12, cost: 4100, test: 'Hanger arm B: Proof load with the season’s carriage' },
  { name: 'Arm C: gauges', days: 2, low: 2, high: 3, after: ['Arm C: mould and lay-up'], resource: 'Jonte Ahrens', cost: 900 },
  { name: 'Arm C: ladder to ultimate', days: 1, low: 1, high: 3, after: ['Arm C: gauges', 'Carriage proof load'], resource: 'Rig 1', cost: 7400 },
  { name: 'Mast shell: scan and set-up', days: 4, low: 3, high: 7, after: [], resource: 'Oskar Venn', cost: 8800 },
  { name: 'Mast shell: buckling', days: 2, low: 1, high: 4, after: ['Mast shell: scan and set-up'], resource: 'Hired press', bookedIn: 25, cost: 21_500 },
  { name: 'Buffer tubes and cabin drops', days: 5, low: 4, high: 9, after: ['Carriage proof load'], resource: 'Drop tower', cost: 16_200 },
  { name: 'Pod drops in the valley', days: 3, low: 2, high: 8, after: [], resource: 'Mara Lindqvist', bookedIn: 33, cost: 13_400 },
  { name: 'Winch shafts, eight of them', days: 8, low: 6, high: 13, after: [], resource: 'Torque bench', cost: 24_600 },
  { name: 'Cabinet on the shaker', days: 3, low: 2, high: 5, after: ['Winch shafts, eight of them'], resource: 'Oskar Venn', cost: 6900 },
  { name: 'Season report', days: 7, low: 5, high: 12, after: ['Arm C: ladder to ultimate', 'Mast shell: buckling', 'Buffer tubes and cabin drops', 'Pod drops in the valley', 'Cabinet on the shaker'], resource: 'Mara Lindqvist', cost: 9000 },
] as const
