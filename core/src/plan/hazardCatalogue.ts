/** What can hurt people or the building in a test. */
export const HAZARDS = {
  spring: { title: 'Energy in the loaded article', controls: ['tether', 'screen', 'distance', 'slow-unload'] },
  line: { title: 'A line that parts', controls: ['tether', 'screen', 'distance', 'sleeve'] },
  pressure: { title: 'Energy under pressure', controls: ['water', 'screen', 'distance', 'depressurise', 'relief'] },
  weights: { title: 'Weights above feet', controls: ['props', 'distance', 'feet', 'lookout'] },
  hydraulic: { title: 'Hoses under pressure', controls: ['depressurise', 'eyes', 'relief'] },
  falling: { title: 'Falling and rebounding mass', controls: ['lock-out', 'distance', 'catch', 'screen'] },
  wound: { title: 'Wound-up drive train', controls: ['lock-out', 'screen', 'distance', 'slow-unload'] },
  rotating: { title: 'Turning parts', controls: ['screen', 'lock-out', 'distance', 'loose'] },
  shaking: { title: 'Shaking mass', controls: ['tether', 'lock-out', 'loose'] },
  noise: { title: 'Noise', controls: ['ears', 'distance'] },
  electric: { title: 'Voltage', controls: ['lock-out', 'distance', 'lookout'] },
  energy: { title: 'Stored energy', controls: ['distance', 'screen', 'lock-out', 'slow-unload'] },
} as const satisfies Record<string, { title: string; controls: readonly ControlId[] }>

export type HazardId = keyof typeof HAZARDS

/** What is done about it, with what the checklist then asks. */
export const CONTROLS = {
  tether: { title: 'Tethers', ask: 'Pins, links and loose parts tethered', why: 'What lets go flies.' },
  screen: {
    title: 'Screen',
    ask: 'Screen between the article and everybody',
    why: 'Pieces go further than they are thought to.',
  },
  distance: {
    title: 'Distance',
    ask: 'Nobody inside the barrier while load is on',
    why: 'Whoever leans in to look is where it lands.',
  },
  sleeve: {
    title: 'Sleeve over the line',
    ask: 'Sleeve or weight over the line that can whip',
    why: 'It takes the whip out of it.',
  },
  water: {
    title: 'Water instead of gas',
    ask: 'Filled with water, air bled at the highest point',
    why: 'Water stores a small part of what gas does.',
  },
  depressurise: {
    title: 'Depressurise before approach',
    ask: 'Pressure let off and read as zero before anybody comes near',
    why: 'A shut valve is no zero.',
  },
  relief: { title: 'Relief valve', ask: 'Relief valve set and tried', why: 'A regulator may run away.' },
  props: {
    title: 'Props under it',
    ask: 'Props under the article, a hand’s width clear',
    why: 'It comes down with all that lies on it.',
  },
  feet: { title: 'Boots', ask: 'Boots for whoever lays weights', why: 'Weights slide as it bends.' },
  lookout: {
    title: 'Lookout',
    ask: 'A lookout who only watches and may call stop',
    why: 'Who reads gauges sees nothing else.',
  },
  catch: { title: 'Catch after the rebound', ask: 'Catch tried, second impact impossible', why: 'It falls again.' },
  'lock-out': {
    title: 'Lock-out',
    ask: 'Lock and tag on the drive while anybody is inside',
    why: 'Software lets go of nothing.',
  },
  'slow-unload': {
    title: 'Way down',
    ask: 'The way to unload without approaching is tried',
    why: 'After the break it is still loaded.',
  },
  loose: {
    title: 'Nothing loose',
    ask: 'Sleeves, hair, tools and cables away from what moves',
    why: 'It pulls in what it reaches.',
  },
  eyes: { title: 'Eye protection', ask: 'Eye protection on', why: 'A pinhole in a hose cuts.' },
  ears: { title: 'Ear protection', ask: 'Ear protection on', why: 'Hearing does not come back.' },
} as const

export type ControlId = keyof typeof CONTROLS
