import type { Run } from './client'
import type { components } from './openapi'
import type { FindingRecord, OtherParts, PlotRecord, ScenarioRecord } from './parts'

/** Names that the page uses for what docs/openapi.yaml describes; `openapi.d.ts` is made of it when the project is set up. */
type Described = components['schemas']

/** `looked` tells of a thing along dimensions at what the window looks: one terrace, all ages. */
export type Thing = Omit<Described['Element'], 'along'> & {
    along?: NonNullable<Described['Element']['along']> & { looked?: string; picked?: string }
}
export type Kind = Thing['kind']
/** A dimension with all of its elements. */
export type DimensionView = Described['DimensionView']
export type DimensionRecord = Described['Dimension']
export type Point = Described['Point']
export type Placement = Described['Placement']
/** A second appearance of a thing. */
export type Echo = Described['Echo']
export type Group = Described['Group']
/** `sign` is null where only a run can tell it. */
export type CausalLink = Described['Link']
export type Remedy = Described['Remedy']
export type Problem = Described['ModelProblem']
export type TimeSettings = Described['TimeSettings']
/** An element that was made of something else in the document: it has values and can be plotted, and is edited where it comes from. */
export type Generated = Described['Generated']

/** What a run is made with besides the model. */
export type Setting = Described['Setting']
/** A variable taken by hand; see docs/experiments.md. */
export type Grip = Described['Grip']
export type Signal = Grip['signal']
/** Which run is meant, wherever one can be named. */
export type RunRef = Described['Run']
export type RunRequest = Described['RunRequest']

export type Scenario = Required<ScenarioRecord> & { /** With all that it builds on. */ resolved?: Setting }
export type Finding = Required<FindingRecord>
export type Plot = PlotRecord
export type PlotKind = NonNullable<Plot['kind']>
export type PlotOptions = NonNullable<Plot['options']>
export type Measure = NonNullable<PlotOptions['measure']>
/** A line across a plot at a number or at a variable’s values; a band where there is a second end. */
export type PlotMark = NonNullable<PlotOptions['marks']>[number]

/** The parts of a document are described more closely where they are declared. */
interface Parts extends Partial<OtherParts> {
    tracks: Plot[]
    plots: Record<string, Plot>
    scenarios: Record<string, Scenario>
    findings: Record<string, Finding>
}
export type Model = Omit<Described['Model'], keyof Parts> & Parts
export type Delta = Omit<Described['Delta'], keyof Parts> & Partial<Parts>

/** Formats of files that a study goes out in; the last three hold its causal map alone. */
export type FileFormat = 'native' | 'archive' | 'xmile' | 'map-csv' | 'graphml' | 'record'
export type Study = Described['Study']
export type Thumbnail = Described['Thumbnail']
export interface Steps {
    undo?: string | null
    redo?: string | null
}
export type ModelAnswer = Omit<Described['ModelAnswer'], 'model'> & { model: Model }
export type News = Omit<Described['News'], 'changed'> & { changed?: Delta; /** What was wished for together with the edit. */ run?: Run }
export type Edit = Described['Edit']

export type Fault = Described['Fault']
export type Notice = Described['Notice']
export type RunHeader = Omit<Described['RunHeader'], 'edit'> & {
    /** The edit that it was made after, if they were sent together. */ edit?: News
}
export type Health = Described['StepCheck']
export type Catalogue = Described['Catalogue']
/** `grade` says what it changes. */
export type LogLine = Described['LogLine']
export type Effects = Described['Effects']
export type FeedbackLoop = Described['FeedbackLoop']
export type FeedbackLoops = Described['FeedbackLoops']
export type Push = Described['Push']
/** A causal map as the engine reads it. */
export type MapRead = Described['MapRead']
export type MapLoop = Described['MapLoop']
/** The common structures, and where the map looks like one. */
export interface MapStructures {
    structures: Described['Structure'][]
    /** By structure, what stands in its parts. */
    found: Record<string, { places: Record<string, string>[]; complete: boolean }>
}
/** How well a run fits evidence. */
export type Fit = Described['Fit']
/** A table of data as it came, and what was understood of it. */
export type TableRead = Described['TableRead']
/** A worker reads a file. */
export type StillReading = Described['StillReading']
export type TableSeries = Described['TableSeries']
export type TableWishes = Described['TableWishes']
/** The areas of a geographic file, and which elements of dimensions they are. */
export type AreasRead = Described['AreasRead']
export type TableRows = Described['TableRows']
export type EvidenceMade = Described['EvidenceMade']['evidence'][number]
/** Many runs under uncertainty: how far they are, and what they are of. */
export type Ensemble = Described['Ensemble']
export type WantedOutcome = Described['WantedOutcome']
export type Bands = Described['Bands']
/** How one number of many runs lies. */
export type Lying = Described['Lying']
export type OutcomeSummary = Described['OutcomeSummary']
export type Mattering = Described['Mattering']
export type InputIndices = Described['InputIndices']
export type SharesOver = Described['SharesOver']
export type BeatenBy = Described['AgainstOther']
export type Nudged = Described['Nudged']
/** A distribution as it is shown. */
export type Distribution = Described['Distribution']
/** A run for each combination of candidates. */
export type Combined = Described['Combined']
/** Whether something that is expected of the model is the case. */
export type Expected = Described['Expected']
export type Foreseen = Described['Foreseen']
export type Equation = Described['Equation']
/** A formula that an edit would make read otherwise; without an element it is what ends the run. */
export type Rereading = Described['Rereading']
export type HistoryPage = Described['HistoryPage']
export type Change = Described['Change']
export type KeptRun = Described['KeptRun']
export type LoggedRun = Described['LoggedRun']
export type BatchState = Described['Batch']
export type TrailAnswer = Described['Trail']
export type Cause = NonNullable<TrailAnswer['causes']>[number]

/** A calibration that was begun, and what is about to be fitted. */
export type Calibrated = Described['Calibrated']
export type PolicyBeside = Described['PolicyBeside']
export type Books = Described['Books']
export type LedgerPage = Described['LedgerPage']
export type LedgerClaim = Described['LedgerClaim']
export type LedgerRow = Described['LedgerRow']
export type LedgerEntry = Described['LedgerEntry']
export type Rewired = Described['Rewired']
export type PastedLedger = Described['PastedLedger']
export type FitForeseen = Described['FitForeseen']
export type FitPicture = Described['FitPicture']
export type FreedNumber = Described['FreedNumber']
export type FitDraws = Described['FitDraws']
export type OpenResult = Described['OpenResult']

/** What stands in a table by run: beside its numbers, how it stands against the first run, or its course in few words. */
export type Against = Described['Against']
export type Summary = Described['Summary']
export type TableAnswer<Cell> = Omit<Described['Table'], 'rows'> & { rows: { element: string; cells: Cell[] }[] }

/** What became of the members of a roster in a run. */
export type Muster = Described['Muster']
/** What each member has at a time. */
export type MembersNow = Described['MembersNow']
export type MembersMoving = Described['MembersMoving']
export type MemberRow = MembersNow['rows'][number]
export type RosterTable = Described['RosterTable']
/** One question answered at three levels. */
export type Levels = Described['Levels']
export type Level = Levels['levels'][number]
export type RelationTable = Described['RelationTable']
