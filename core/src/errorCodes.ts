/**
 * Every code that an error can carry, what it means, and the status with which a route answers it. Codes are for
 * programs and never change their meaning; `docs/errors.md` is made from this table.
 */
const TABLE = {
  // What was typed or sent
  'missing-setting': [422, 'A value that is needed was not given.'],
  'setting-type': [422, 'A value is of the wrong kind: a word where a number is needed, or the other way round.'],
  cycle: [422, 'Tasks wait for each other, or one waits for itself.'],
  'setting-range': [422, 'A value is outside what is possible there.'],
  'not-json': [400, 'The body of a request is not JSON.'],
  'setup-format': [422, 'A setup file does not have the form that the method asks for.'],
  'not-a-number': [422, 'A number could not be read.'],
  'number-ambiguous': [422, 'A number that may be two: a comma before exactly three digits.'],
  'band-unit': [422, 'A band without a unit: per cent of the value, or in its own unit.'],
  'other-currency': [422, 'An amount in another currency than the campaign counts in.'],
  'not-a-date': [422, 'A date could not be read.'],
  'unit-unknown': [422, 'The unit is not known.'],
  'unit-dimension': [422, 'The unit measures another kind of quantity.'],
  'missing-name': [422, 'A name is needed.'],
  'missing-reason': [422, 'A reason is needed.'],
  'name-taken': [422, 'A channel of this name exists.'],
  taken: [422, 'A row of this name exists.'],
  'fact-type': [422, 'A property has another type in another revision of the same article.'],
  'unknown-reference': [422, 'A row names another one that does not exist.'],
  'own-ancestor': [422, 'A revision would be its own ancestor.'],
  circle: [422, 'Things would wait for, or be computed from, one another.'],
  expression: [422, 'An expression cannot be read; the place counts characters from 1.'],
  'nothing-changed': [422, 'The change proposed is the state that exists.'],
  usage: [422, 'The command line was not understood.'],
  // Files
  'empty-file': [422, 'The file holds no data.'],
  'damaged-file': [422, 'The file is of a known form but broken.'],
  'truncated-file': [422, 'The file ends before its own header says.'],
  'not-text': [422, 'The file is not a text table.'],
  'not-supported': [422, 'The file is of a known form, in a variant that is not read.'],
  'known-bytes': [422, 'The same bytes were imported already.'],
  'file-missing': [422, 'The original file is no longer in its place.'],
  'line-too-long': [422, 'A line is longer than a table of numbers would have it.'],
  'ragged-row': [422, 'A row has more or fewer cells than the header.'],
  'no-header': [422, 'No header row was found.'],
  'missing-column': [422, 'A column that is needed is not in the file.'],
  'unknown-column': [422, 'A column of a pasted or imported register has no field here.'],
  'missing-data': [422, 'A data file is needed.'],
  'too-large': [422, 'More was asked for than is served at once.'],
  // Channels and data
  'missing-channel': [422, 'A channel that the method needs has no column.'],
  'unknown-channel': [422, 'No channel of this name.'],
  'role-taken': [422, 'Two columns would be the same channel.'],
  'wrong-role': [422, 'The person does not hold the role that this needs.'],
  'main-clock': [422, 'The clock of the main record cannot be set: the others are set to it.'],
  'not-derived': [422, 'An imported channel cannot be taken out.'],
  'time-order': [422, 'Time does not rise.'],
  'uneven-time': [422, 'An even time base is needed and the samples are not evenly spaced.'],
  'calibration-table': [422, 'A calibration table cannot be used.'],
  'over-range': [422, 'A reading is beyond the full scale of its sensor.'],
  'data-range': [422, 'Data are outside what the method can use.'],
  'no-data': [422, 'There are no data where they are needed.'],
  'no-event': [422, 'The event that the method looks for is not in the record.'],
  'no-targets': [422, 'The record holds no image targets.'],
  'too-few': [422, 'There are too few values for the method.'],
  singular: [422, 'A fit has no single answer.'],
  // Methods
  'unknown-family': [422, 'No kind of test of this name.'],
  'unknown-method': [422, 'No method of this name.'],
  'unknown-calc': [422, 'No calculation of this name.'],
  'unknown-result': [422, 'No result of this name.'],
  'no-advice': [422, 'No design rule is known for this kind of test.'],
  'no-sizes': [422, 'The properties of the revision hold none of the sizes that the design rules need.'],
  'no-candidate': [422, 'The candidate no longer exists.'],
  'no-results': [422, 'There are no results yet.'],
  // Plan, readiness, run, judgement
  'no-plan': [422, 'The test has no plan yet.'],
  'plan-fixed': [422, 'The test has been run; its plan stays.'],
  'plan-released': [422, 'This version of the plan is released.'],
  'not-released': [422, 'The plan is not released.'],
  'not-releasable': [422, 'The plan has errors to fix.'],
  'not-ready': [422, 'The checklist has open items.'],
  'not-last': [422, 'Signing comes after every other item.'],
  'needs-override': [422, 'The item can only be overridden, with a reason.'],
  'needs-reading': [422, 'A reading must be entered.'],
  'no-check-value': [422, 'The plan has no value for the check to be held against.'],
  settled: [422, 'This follows from elsewhere and cannot be set here.'],
  'already-running': [422, 'A run of this test is open.'],
  'still-running': [422, 'The run goes on.'],
  'not-running': [422, 'The run is not going on.'],
  'not-interrupted': [422, 'The run was not interrupted.'],
  'not-resumable': [422, 'The run cannot be resumed.'],
  'no-controls': [422, 'The source takes no commands.'],
  'stream-silent': [422, 'The stream sent nothing.'],
  'validity-contradicts': [422, 'The validity contradicts an answer given.'],
  // Registers
  'not-here': [422, 'Rows of this register are made elsewhere.'],
  'not-by-hand': [422, 'This value is computed and not entered.'],
  'in-use': [422, 'Others depend on the row.'],
  'rests-on-it': [422, 'Results or channels depend on the data.'],
  fixed: [422, 'The value was set when the row was made and stays.'],
  locked: [422, 'The prediction was locked by the first sample.'],
  replaced: [422, 'The constant was replaced and stays as it was.'],
  'changed-meanwhile': [409, 'Somebody else changed it in the meantime.'],
  'nothing-to-undo': [422, 'There is nothing to undo.'],
  'not-found': [404, 'Nothing at this address.'],
  // The machine
  cancelled: [422, 'The person cancelled it.'],
  interrupted: [422, 'The server was stopped while the work was going on.'],
  'worker-lost': [422, 'A worker process ended before its work was done.'],
  unreachable: [503, 'The server does not answer.'],
  internal: [500, 'A fault of the software.'],
} as const satisfies Record<string, readonly [number, string]>

export type ErrorCode = keyof typeof TABLE

/** The meaning of each code and the status of the answer that carries it. */
export const ERROR_CODES: Record<ErrorCode, readonly [status: number, meaning: string]> = TABLE

const isErrorCode = (code: string): code is ErrorCode => Object.hasOwn(TABLE, code)

/** A code that came over a wire; one that this build does not know is `internal`. */
export const errorCodeOf = (code: string | undefined): ErrorCode => (code && isErrorCode(code) ? code : 'internal')
