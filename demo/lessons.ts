/* What went wrong at Varnholt before, and what its plans should hear of. Made up. */

const none = {
  families: [] as string[],
  features: [] as string[],
  fixtures: [] as string[],
  methods: [] as string[],
  words: [] as string[],
}

export const lessons = [
  {
    ...none,
    title: 'Clamped roots pull on their inserts',
    happened:
      'Ends held too stiff pulled on the bonded inserts as the span sagged; the insert sheared and the arm was blamed.',
    instead: 'Let the root rotate or slide, radius the jaws, and check the in-plane pull before the first rung.',
    families: ['Static load'],
    features: ['bonded'],
    fixtures: ['clamp'],
    source: 'Hanger arm A, first build',
  },
  {
    ...none,
    title: 'A dial gauge on the floor reads the floor',
    happened: 'The deflection of the frame went into the reading; half a day of data had to be taken again.',
    instead: 'Put a second gauge on the frame and take its motion off.',
    families: ['Static load'],
    words: ['frame', 'floor'],
    source: 'Old mast, spring',
  },
  {
    ...none,
    title: 'Straps creep before they carry',
    happened: 'New straps stretched during the holds; the load sank and the creep of the article could not be told.',
    instead: 'Load the straps to the top once without the article, and hold with the jack.',
    methods: ['strap'],
    source: 'Carriage frame',
  },
  {
    ...none,
    title: 'A canopy packed damp opens late',
    happened: 'A damp canopy clung together: the opening came 1.2 s late and 40 m lower.',
    instead: 'Dry it overnight, weigh it before packing, write the weight on the card.',
    families: ['Descent'],
    features: ['packed canopy'],
    source: 'Pod drop 2',
  },
  {
    ...none,
    title: 'A leak test without the temperature is a weather report',
    happened: 'The bag cooled through the evening and “leaked”; nothing was leaking.',
    instead: 'Log the gas temperature and take it out before the leak is judged.',
    families: ['Burst'],
    words: ['leak', 'hold'],
    source: 'Ballast bag',
  },
  {
    ...none,
    title: 'A gauge ten times too large reads a guess',
    happened: 'A strop broke at 8 % of the gauge’s range, in a second; the value lies between two shouted numbers.',
    instead: 'Choose a gauge that the break fills to a half; log it, and call the numbers out as well.',
    families: ['Pull'],
    methods: ['call'],
    source: 'Haul strop, worn lot',
  },
  {
    ...none,
    title: 'The coupling went before the shaft',
    happened: 'The winch shaft was to break; the coupling did, at 1.1 times the wanted torque.',
    instead: 'Run the drive-chain sheet first: the article must be the weakest by a clear chance.',
    families: ['Torque'],
    features: ['coupling'],
    source: 'Winch',
  },
]
