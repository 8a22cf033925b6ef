import type { Run } from './client'
import type { FindingRecord, OtherParts, PlotRecord, ScenarioRecord } from './parts'

export type Kind = 'stock' | 'flow' | 'auxiliary' | 'parameter' | 'curve' | 'series'

export interface Thing {
    id: string
    kind: Kind
    name: string
    /** The name as it stands in a formula: in quotes where that is needed. */
    written: string
    /** The initial value of a stock, else the value at every moment. */
    formula: string
    unit: string
    note: string
    /** A short sign as it is typed, and as plain text. */
    symbol?: string
    sign?: string
    /** The unit that follows from the others where none is given. */
    inferred?: string | null
    /** Of a flow: the stock it leaves or enters; null for outside. */
    from?: string | null
    to?: string | null
    oneWay?: boolean
    priority?: number | null
    /** Whether a transit stock arrives by it, so that its formula follows. */
    arrives?: boolean
    /** Of a stock. */
    neverNegative?: boolean
    travel?: string
    /** Of a curve. */
    points?: [number, number][]
    between?: 'straight' | 'smooth' | 'stepped'
    beyond?: 'held' | 'extended'
    inputUnit?: string
    /** Its course, for the picture. */
    path?: [number, number][]
    /** Of a parameter. */
    value?: number | null
    low?: number | null
    high?: number | null
    step?: number | null
    /** Values with names, to choose from. */
    choices?: { name: string, value: number }[]
}

export interface Point { x: number, y: number }

export interface Placement { at: Point, source?: Point, target?: Point, sheet?: string, bendIn?: Point, bendOut?: Point, plot?: boolean }

/** A second appearance of a thing. */
export interface Echo { element: string, at: Point, sheet: string }

export interface Group { name: string, tint: string, members: string[] }

/** `sign` is null where only a run can tell it. */
export interface CausalLink { from: string, to: string, kind: 'now' | 'start' | 'unused', sign?: '+' | '-' | '' | null, late?: boolean }

export interface Remedy { words: string, edits: Edit[] }

export interface Problem {
    code: string
    sentence: string
    element: string | null
    field: string | null
    from: number | null
    length: number | null
    severity: 'missing' | 'wrong' | 'remark'
    /** A formula that would mend it. */
    mend?: string | null
    remedy?: Remedy | null
    /** Another way to mend it. */
    other?: Remedy | null
}

export interface TimeSettings { start: number, end: number, step: number, unit: string, method: string, saveEvery: number | null, steps: number, startDate: string | null, tolerance: number, absoluteTolerance: number }

/** An element that was made of something else in the document: it has values and can be plotted, and is edited where it comes from. */
export interface Generated { name: string, kind: Kind, unit: string, origin: { part: string, id: string, words: string } }

export interface Model extends Partial<OtherParts> {
    generated?: Record<string, Generated>
    name: string
    note: string
    time: TimeSettings
    sheets: { id: string, name: string }[]
    tracks: Plot[]
    plots: Record<string, Plot>
    scenarios: Record<string, Scenario>
    findings: Record<string, Finding>
    /** A condition that ends a run; empty for none. */
    endWhen: string
    sameUnits: string[]
    order: string[]
    elements: Record<string, Thing>
    placements: Record<string, Placement>
    echoes: Record<string, Echo>
    /** By `from>to`, how far the middle of the link is pulled aside. */
    bends: Record<string, Point>
    groups: Group[]
    links: CausalLink[]
    problems: Problem[]
    /** What a careful reader would ask about the structure. */
    health: Problem[]
    waiting: Record<string, string>
    /** The same for all versions that compute the same. */
    meaning: string
    /** Times and the moments they are, in seconds since 1970; null without a calendar. */
    calendar: [number, number][] | null
}

export interface Study { id: string, name: string, demo: boolean, model: string, revision: number, changed: string, /** Lines of its import log that nobody has ticked off. */ toCheck: number }

export interface Thumbnail { lines: { name: string, values: number[] }[], words: string, unit: string, start: number, end: number }

export interface Steps { undo?: string | null, redo?: string | null }

export interface ModelAnswer extends Steps { id: string, study: string, user: number, revision: number, model: Model }

export type Delta = Partial<Omit<Model, 'elements' | 'placements' | 'echoes'>> & {
    elements?: Record<string, Thing | null>
    placements?: Record<string, Placement | null>
    echoes?: Record<string, Echo | null>
}

export interface News extends Steps {
    revision: number
    since: number
    /** Without what changed: that is to be asked for. */
    quick?: boolean
    /** What was wished for together with the edit. */
    run?: Run
    changed?: Delta
    done: { revision: number, window: string, kind: string, words: string }[]
}

export type Edit = { kind: string } & Record<string, unknown>

export interface Fault { element: string, name: string, time: number, reason: string, inputs: Record<string, number>, sentence: string, remedy?: Remedy | null }

export interface RunHeader {
    revision: number
    unit: string
    method: string
    evaluations: number
    milliseconds: number
    length: number
    columns: string[]
    /** Whether all columns were sent. */
    whole: boolean
    steady: Record<string, number>
    /** Moments that the run saved; fewer are sent where a screen shows no more. */
    saved: number
    span: [number | null, number | null]
    /** Whether moments were left out. */
    coarse: boolean
    /** Values at the time that was asked for, of what was not sent. */
    now: Record<string, number>
    stopped: boolean
    fault: Fault | null
    ended: boolean
    notices: Notice[]
    /** The edit that it was made after, if they were sent together. */
    edit?: News
}

export interface Notice { code: string, element: string, time: number, sentence: string, remedy?: Remedy | null }

export interface Health { verdict: 'fine' | 'fair' | 'poor' | 'fault', sentence: string, remedy?: Remedy | null, differences: { element: string, name: string, what: string, difference: number }[] }

export interface Catalogue {
    functions: { name: string, group: string, signature: string, sentence: string, example: string, synonyms: string[] }[]
    quantities: { name: string, sentence: string }[]
    methods: { name: string, title: string, abbreviation: string, sentence: string, adaptive: boolean }[]
}

/** `grade` says what it changes. */
export interface LogLine { where: string, sentence: string, element: string | null, grade: 'numbers' | 'drawing' | 'information', done?: boolean }

export interface Effects { revision: number, signs: Record<string, string> | null, at: Record<string, { effect: number, share: number }> | null }

export interface Equation { words: string, latex: string }

/** A formula that an edit would make read otherwise; without an element it is what ends the run. */
export interface Rereading { element: string | null, name: string, was: string, now: string }

export interface HistoryPage {
    entries: { revision: number, kind: 'edit' | 'undo' | 'redo', words: string, at: string, undone: boolean }[]
    milestones: { revision: number, name: string }[]
    more: boolean
}

export type Signal = 'constant' | 'step' | 'ramp' | 'wave' | 'pulses' | 'window' | 'series' | 'drawn'

/** A variable taken by hand; see docs/experiments.md. */
export interface Grip { signal: Signal, values?: Record<string, number>, points?: [number, number][], series?: string, from?: number, until?: number, on?: boolean }

/** What a run is made with besides the model. */
export interface Setting { parameters?: Record<string, number>, grips?: Record<string, Grip>, time?: Record<string, number | string>, curves?: Record<string, string>, seed?: number }

export type Scenario = Required<ScenarioRecord> & { /** With all that it builds on. */ resolved?: Setting }

export type Plot = PlotRecord
export type PlotKind = NonNullable<Plot['kind']>
export type PlotOptions = NonNullable<Plot['options']>
export type Measure = NonNullable<PlotOptions['measure']>

/** A line across a plot at a number or at a variable’s values; a band where there is a second end. */
export type PlotMark = NonNullable<PlotOptions['marks']>[number]

export type Finding = Required<FindingRecord>

/** Which run is meant, wherever one can be named. */
export interface RunRef { kept?: string, log?: number, batch?: string, position?: number, revision?: number, scenario?: string, setting?: Setting }

export interface KeptRun { id: string, name: string, note: string, colour: number, hidden: boolean, revision: number, setting: Setting, meaning: string, made: string }

export interface LoggedRun { id: number, revision: number, settings: Setting, scenario: string, starred: boolean, comment: string, made: string, edits: string[], setting: string[] }

export interface BatchState { id: string, revision: number, cancelled: boolean, share: number, finished: boolean, runs: { position: number, name: string, scenario: string, state: 'waiting' | 'running' | 'done' | 'stopped' | 'refused', share: number, seconds: number | null, words: string }[] }

export interface Cause { cause: string, change: number }

export interface TrailAnswer { element: string, time: number, value: number, rate: number, causes?: Cause[], effects?: { effect: string, change: number, share: number }[], rest?: number, base?: number, difference?: number, /** What keeps it where it is. */ holds?: { sentence: string, since: number | null, element: string | null }[], /** What was changed between two runs, and by cause, which of that acts on it. */ changes?: Change[], through?: Record<string, string[]>, from?: number, until?: number, isAmount?: boolean }

export interface Against { value: number | null, difference: number | null, percent: number | null }

export interface Summary { first: number, last: number, least: number, most: number, leastAt: number, mostAt: number, mean: number, total: number, settled: number | null }

export interface TableAnswer<Cell> { runs: { name: string, revision: number, /** When it stopped by a fault. */ stopped: number | null, /** Positions of times that lie between saved moments. */ between: number[] }[], times: number[], rows: { element: string, cells: Cell[] }[] }

export interface Change { what: 'added' | 'changed' | 'removed' | 'moved', element: string | null, name: string, kind: string, fields: { field: string, was: string, now: string }[] }
