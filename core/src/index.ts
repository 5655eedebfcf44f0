export * from './days'
export * from './error'
export { plainIssue } from './method/plainIssue'
export * from './errorCodes'
export * from './quantity/index'
export * from './warning'
export { likenessOfName, type NamedRole } from './method/roleNames'
export * from './method/table'
export * from './method/results'
export * from './method/calculation'
export * from './method/setup'
export * from './family/contract'
export type { SettingCheck } from './family/checks'
export * from './method/reduction'
export * from './registry/run'
export * from './registry/planFacts'
export * from './registry/readArticle'
export { checkKnownFacts, enteredOf, factOf, knownBy, namesOf, type KnownFact } from './register/knownFacts'
export { reduceTable } from './family/reduceTable'
export { deriveField } from './method/derive'
export * from './method/settings'
export * from './method/channels'
export * from './registry/methods'
export * from './method/figure'
export * from './family/stages'
export type * from './plan/planView'
export type * from './method/prediction'
export * from './method/form'
export * from './judge/decide'
export * from './judge/places'
export * from './judge/standing'
export * from './judge/whatDecides'
export * from './judge/margins'
export * from './uncertainty/coverage'
export * from './uncertainty/sensor'
export * from './formats/sniff'
export { beginningOf } from './formats/archive'
export { unitSaid } from './formats/unitSaid'
export type { NumbersSeen } from './formats/cells'
export { fromWords, writeCsv, type CsvCell } from './formats/writeCsv'
export { decodeText } from './formats/decode'
export { lineOfRow } from './formats/blocks'
export { blanksAsTabs, type Dialect } from './formats/dialect'
export { epochNote, epochOf } from './formats/epoch'
export { readStamp, type DateOrder } from './formats/stamps'
export { calibrate, checkCalibration, readCalibration, type CalibrationTable } from './quantity/calibration'
export { alignClocks, type Alignment } from './signal/alignClocks'
export { glanceOf, glanceText, MOST_GLANCES, type Glance } from './formats/glance'
export { readHead, readTable, type ColumnMapping, type RawTable, type TableHead } from './formats/readTable'
export { afterLines, BlockReader, type ParsedBlock, type RowLayout } from './formats/blocks'
export { contentLines, splitCells } from './formats/lines'
export { buildPyramid, type PyramidLevel } from './signal/pyramid'
export { counts } from './kernels/counts'
export { extremes } from './kernels/extremes'
export { outline, OUTLINE_OF } from './kernels/outline'
export {
  channelHealth,
  movesAgainst,
  worstFirst,
  type HealthCode,
  type HealthFlag,
  type HealthOptions,
} from './signal/health'
export { SeededRandom } from './statistics/random'
export { resample } from './signal/timeBase'
export { lineOfSteps, stepMeans, type StepLine, type StepSpan } from './signal/stepMeans'
export { findParting } from './signal/redundancy'
export {
  clockPieces,
  mendedClock,
  orderClock,
  type ClockRepair,
  type ClockState,
  type MendedClock,
} from './signal/clock'
export { welch } from './signal/welch'
export { meanSd } from './statistics/mean'
export { setOf, spreadOf, trendOf, type Spread, type Trend, type Wall } from './compare/specimens'
export { namesIn, parse as parseExpression } from './expression/parse'
export { namesAsked } from './registry/reduceRaw'
export { checkDeclared, resultsOf } from './registry/ownResults'
export { LiveOwn, type LiveOwnResult, type OwnLimit } from './own/liveOwn'
export { asSetting, declaredOwn, ownOf, placeWords, withOwnResults, type DeclaredOwn } from './own/declared'
export { OWN_PLACES, ownField, type Own, type OwnAt, type OwnPlace } from './own/own'
export { deriveChannel, isLikeItsChannels, withNames, type Derived } from './expression/derived'
export { symbolsOf } from './expression/symbols'
export { findPlateaus } from './signal/plateaus'
export { type StaticArticle } from './families/static/article'
export { material } from './method/material'
export { familyOutlines, outlineOf } from './registry/catalogue'
export { type FamilyOutline } from './method/familyOutline'
export * from './registry/plans'
export * from './registry/reduceRecord'
export * from './plan/finding'
export * from './plan/drawing'
export { firstPlan, roundLevels, templatesFor } from './registry/firstPlan'
export type { AskedOf, FirstPlan, PlannedFrom, PlanTemplate } from './registry/firstPlan'
export { writeLadder, type LadderFrame, type LadderRule } from './plan/rules'
export { withoutExamples } from './plan/examples'
export { nextLoading, type LadderRung, type WrittenRung } from './plan/ladder'
export * from './plan/loading/index'
export type * from './plan/loading/loading'
export { channelKinds, channelKindOf, type ChannelKind, type InstallStage } from './plan/channelKinds'
export { readChannelList, type ChannelList, type ListColumn, type ListedChannel } from './plan/channelList'
export { RATE_CLASSES, sensorClashes, type ChannelView, type PlanChannel, type RateClass } from './plan/channels'
export { CONTROLS, HAZARDS, type ControlId, type HazardId } from './plan/hazardCatalogue'
export { isControlled, type HazardView } from './plan/hazards'
export { judgeReading, wantedReading, type JudgedReading, type ReadingAsked, type ReadyLimits } from './plan/readings'
export { READY_GROUPS, readyItems, readyLimitsOf, roleWords, type ReadyItem } from './plan/ready'
export { SIGN_ROLES, topOf, type NeededChannel, type Plan } from './plan/plan'
export { firstChannels, type Planning } from './plan/planning'
export * from './plan/abortOutputs'
export * as planFields from './plan/fields'
export { forecast, type Expectation, type ForecastLimit, type ForecastRow } from './plan/forecast'
export { WATCH_ACTIONS, WATCH_KINDS, type WatchAction, type WatchKind, type WatchRule } from './plan/watch'
export { liveKindOf } from './registry/liveOf'
export { simulatedRigOf, type RigOptions } from './registry/rigOf'
export { barWaves } from './families/bar/specimen'
export { strainOf as couponStrain } from './families/coupon/specimen'
export { simulateMap } from './families/flow/specimen'
export { impedanceOf, pistonAt } from './families/transducer/specimen'
export {
  farthestTime,
  restOf,
  shapeAt,
  stretchBetween,
  targetField,
  targetsOf,
  targetsOfRows,
  type FieldShape,
  type Target,
  type TargetField,
} from './targets/targets'
export { pivotRows, rowsOf, tallName, withoutBrackets } from './formats/tall'
export { coverageFactor } from './uncertainty/coverage'
export { FILE_AXES, type Axes, type AxesSaid } from './targets/axes'
export { cylinderOf, developed, type Cylinder, type Developed } from './targets/cylinder'
export { point, type Point } from './geometry/point'
export type { RigBlock } from './rig/block'
export { calledOn, RUNG_TOLERANCE, type CalledRung } from './rig/calledRung'
export { debrief, type DebriefEvent, type DebriefRow } from './rig/debrief'
export { drawFaults, FAULT_KINDS, faultWords, type Fault, type FaultKind } from './rig/faults'
export {
  commandLadder,
  startLadder,
  stepLadder,
  targetOf,
  type Ladder,
  type LadderState,
  type RigCommand,
  type RigEnd,
  type RigPhase,
} from './rig/ladder'
export { LineStream, type StreamColumn, type StreamLayout, type StreamTrouble } from './rig/lineStream'
export type { Ahead, LiveFigure, LiveReader, LiveSaid } from './rig/liveReader'
export { LiveDerived } from './rig/liveDerived'
export { LiveHealth, type LiveFlag, type LiveFlagCode } from './rig/liveHealth'
export { OnsetEstimator, type OnsetEstimate } from './rig/onset'
export { hasZero, HoldMeans, project, RungMeans, type HoldMean, type Projection } from './rig/projection'
export { type RigState, type SimulatedRig, type SimulatedState } from './rig/simulatedRig'
export { isReadAfter, readingAt, STRUCK, strikesIn, struckOut, withStrikes, type Strike } from './rig/struck'
export { readsCommanded, setPointsOf, withSetPoint } from './rig/setPoint'
export { TriggerGate, type Piece, type Trigger } from './rig/triggerGate'
export { LOADED_SHARE, Tare, type TareTaken } from './rig/tare'
export { Watcher, type Crossing } from './rig/watcher'
export type { MovementView } from './plan/movement'
export type { RestraintView } from './plan/restraint'
export type { DataView } from './plan/acquisition'
export { expectedPlaces, type CameraView } from './plan/cameras'
export type { SimilitudeRow } from './plan/similar'
export * from './register/field'
export * from './register/register'
export * from './register/all'
export { CONVENTION_CHOICES, kindOfLimit, LIMIT_LEVELS, limitRegister, limitWall } from './register/limits'
export { kindOfPrediction, PREDICTION_METHODS, predictedValue, predictionRegister } from './register/predictions'
export { constantRegister, MATERIAL_PROPERTIES, siOfConstant } from './register/constants'
export { campaignMoney, type CampaignMoney } from './register/money'
export { actionRegister } from './register/actions'
export { personRegister } from './register/people'
export { scheduleSetup, taskRegister, type ScheduleFrame } from './register/tasks'
export { firingRegister, lessonRegister } from './register/lessons'
export { firingReasons, type LessonTriggers, type PlanTexts } from './register/lessonMatch'
export { SENSOR_KINDS, sensorRegister, sensorSpecificationOf } from './register/sensors'
export { articleRegister, campaignRegister, revisionRegister, testRegister } from './register/things'
export { checkFacts, FACT_GROUPS, readFact, writeFact, type Fact } from './register/facts'
export { limitsOfRevision, lineage } from './judge/inherit'
export { trialsOfHistory, type TrialsOfHistory } from './compare/trialsOfHistory'
export {
  differenceOf,
  factorHistory,
  stepBetween,
  type FactorHistory,
  type FactorSummary,
  type HistoryRevision,
  type HistoryStep,
} from './compare/factorHistory'
export { readCurve } from './register/curve'
export {
  adviseRevision,
  candidateOf,
  checkSizingRules,
  revisionWith,
  sizingOf,
  type SizingInput,
} from './registry/advice'
export { type RevisionTested } from './advise/sizing'
export { advise, chosenCandidate, type Advice, type Reserve } from './advise/advise'
export type { Candidate, Change, Path } from './advise/candidates'
export { predictionsAt, type Dimension as SizingDimension, type LawInUse, type Sizes } from './advise/model'
export type { AdviceLimit, Need } from './advise/needs'
export { madeOf, sizingRules, type SizingRulesInput } from './advise/made'
export { trade, type Option as TradeOption, type Trade, type Traded } from './advise/trade'
export { CAUSES, endsEarly, underCause, type Cause } from './judge/cause'
export { checkAnswers, QUESTIONS, type Answer, type Evidence, type QuestionKey } from './judge/questions'
export { handoverRemarks, operatingTables, type OperatingCell, type OperatingTable } from './advise/operating'
export { differenceCurve, repeatability, wayOut, type CurveDifference } from './compare/curves'
export { valueAt } from './signal/valueAt'
export { explain, type Explained, type Explanation, type Explanations } from './compare/explain'
export { againstModel, type Agreement } from './calc/models/againstModel'
export { unknownsOf } from './compare/explain'
export { unlikeZeros, zeroOf, zeroWindow } from './compare/zeros'
export {
  contradicts,
  recordOf,
  speaksOf,
  type Foretold as ForetoldValue,
  type PredictionRecord,
} from './compare/foretold'
