/** How channels over one another in a strip are told apart: by colour and by dashes. */
const LOOKS: { colour: string; dash: number[] }[] = [
  { colour: 'measured', dash: [] },
  { colour: 'open', dash: [6, 3] },
  { colour: 'predicted', dash: [2, 2] },
  { colour: 'fail', dash: [9, 3, 2, 3] },
  { colour: 'ink', dash: [1, 3] },
  { colour: 'pass', dash: [12, 4] },
]

export const stripLook = (i: number) => LOOKS[i % LOOKS.length]!
