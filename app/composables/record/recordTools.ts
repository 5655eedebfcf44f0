/** What can be done to a record beside looking at it; one at a time is open. */
export type RecordTool = 'derive' | 'pairs' | 'clocks' | 'steps' | 'health' | 'file'
