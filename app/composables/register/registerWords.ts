/** What a register is for, on its own page. */
export const registerWords: Record<string, string> = {
  limit:
    'What each result must keep to, at which level, and where that comes from. A change of a limit keeps its ' +
    'history and reopens the verdicts that used it.',
  prediction: 'What each source expects before the run. The first sample of a run locks them.',
  constant:
    'Numbers of materials and suppliers. A measured value takes a supplier’s place by decision; what was sized ' +
    'from the old one is listed.',
  action: 'Questions that reviews left behind: who answers, by when, and the answer.',
  article: 'The hardware under test, and the features that lessons look for.',
  revision: 'Every revision of every article: what changed, why, and on which finding.',
  test: 'Fixture, loading, date and cost of each test. Its plan and results are on its own pages.',
  task: 'What has to be done, how long it takes, what it waits for, and who or which rig does it.',
  lesson:
    'What went wrong once and what to do instead. A lesson fires on every plan that its triggers fit, and ' +
    'wants an answer.',
  sensor:
    'Range, data sheet and calibration: they give the range check at planning and the uncertainty of every result.',
  person: 'Names for the record, with their roles. There is no sign-in behind them.',
}
