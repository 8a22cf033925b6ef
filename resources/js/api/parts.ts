// Written by bin/write-docs from the parts that core/Model/Parts.php declares.
import type { Setting } from './types'

export interface ScenarioRecord {
    id: string
    name: string
    note?: string
    on?: string[]
    setting?: Setting
    place?: number
}

export interface PlotRecord {
    id: string
    name?: string
    of: string[]
    kind?: 'lines' | 'phase' | 'bars' | 'histogram' | 'multiples' | 'table' | 'heat'
    options?: {
        low?: number
        high?: number
        'across-low'?: number
        'across-high'?: number
        from?: number
        to?: number
        log?: boolean
        own?: boolean
        stacked?: boolean
        totals?: boolean
        fit?: boolean
        zero?: boolean
        digits?: number
        measure?: 'value' | 'normalised' | 'percent' | 'growth' | 'difference' | 'difference-percent'
        times?: number[]
        turned?: {
            rows?: string[]
            columns?: string[]
            picks?: Record<string, string>
        }
        each?: boolean
        pick?: 'greatest' | 'least'
        bins?: number
        marks?: ({
            at: number | string
            to?: number | string
            name?: string
        })[]
        periods?: ({
            from: number
            until: number
            name?: string
        })[]
    }
    pin?: {
        sheet: string
        x: number
        y: number
    }
}

export interface FindingRecord {
    id: string
    title: string
    words?: string
    view: {
        kind: 'plot' | 'table' | 'trail' | 'sheet' | 'comparison' | 'spread' | 'nudge' | 'candidates'
    } & Record<string, unknown>
    place?: number
}

export interface MappingRecord {
    id: string
    name: string
    from: string
    to: string
    pairs: ([string, string, number?])[]
}

export interface TableRecord {
    id: string
    of: string
    values: ([string[], number])[]
}

export interface CoursesOfASeriesRecord {
    id: string
    of: string
    values: ([string[], (number[])[]])[]
}

export interface CausalLinkRecord {
    id: string
    from: string
    to: string
    sign?: '+' | '-' | '?'
    strength?: 'weak' | 'usual' | 'strong'
    late?: boolean
    mechanism?: string
    grounds?: string
    standing?: 'open' | 'agreed' | 'disputed'
}

export interface QuestionRecord {
    id: string
    text?: string
    of?: string
    who?: string
    decision?: string
    answers?: string[]
}

export interface BoundaryLineRecord {
    id: string
    name: string
    side?: 'inside' | 'given' | 'left'
    why?: string
    of?: string
    place?: number
}

export interface ReferenceModeRecord {
    id: string
    kind?: 'seen' | 'feared' | 'hoped' | 'expected'
    of?: string
    what?: string
    unit?: string
    words?: string
    points: ([number, number])[]
}

export interface PairRecord {
    id: string
    one: string
    other: string
    votes?: number
}

export interface ThingPutAsideRecord {
    id: string
    text: string
    done?: boolean
}

export interface ActionIdeaRecord {
    id: string
    text: string
    of?: string
    link?: string
    effect?: 'small' | 'middle' | 'great'
    effort?: 'small' | 'middle' | 'great'
}

export interface NameOfALoopRecord {
    id: string
    name: string
    path: string[]
}

export interface WordingRecord {
    id: string
    of: string
    number?: 'one' | 'many'
    more?: string
    less?: string
}

export interface SourceRecord {
    id: string
    name: string
    content?: string
    sheet?: string
    layout?: 'auto' | 'down' | 'across' | 'long'
    decimal?: 'auto' | '.' | ','
    dates?: 'auto' | 'ymd' | 'dmy' | 'mdy'
    names?: number
    time?: string
    steps?: ({
        do: 'rename' | 'leave out' | 'scale' | 'set aside' | 'mend' | 'gaps' | 'fill' | 'over time' | 'over mapping' | 'gather' | 'spread' | 'join' | 'rate' | 'amount' | 'index'
        off?: boolean
        series?: string[]
        to?: string
        along?: string
        take?: '' | 'sum' | 'mean' | 'weighted' | 'least' | 'greatest' | 'first' | 'last' | 'straight' | 'overlap' | 'plain'
        factor?: number
        plus?: number
        value?: number
        at?: string
        source?: string
        from?: string
        share?: string
        note?: string
    })[]
    station?: string
    note?: string
}

export interface AreaMapRecord {
    id: string
    name: string
    content?: string
    title?: string
    of?: string
    steps?: boolean
    joins?: ({
        dimension: string
        property?: string
        pairs?: Record<string, string>
    })[]
}

export interface UncertainInputRecord {
    id: string
    of: string
    at?: string[]
    law: string
    off?: boolean
    note?: string
}

export interface RankCorrelationRecord {
    id: string
    one: string
    other: string
    rank: number
}

export interface OutcomeRecord {
    id: string
    of: string
    at?: string[]
    kind?: 'last' | 'at' | 'min' | 'max' | 'mean' | 'total' | 'peak'
    time?: number
    place?: number
}

export interface MutedInputRecord {
    id: string
    of: string
}

export interface ListOfCandidatesRecord {
    id: string
    of: string
    values: number[]
    ticked?: number[]
    place?: number
}

export interface ExpectationRecord {
    id: string
    name?: string
    when?: Setting
    factors?: Record<string, number>
    starts?: Record<string, number>
    of?: (string | {
        name: string
        id?: string
    })[]
    shape: 'never-below' | 'never-above' | 'within' | 'near' | 'always' | 'never' | 'reaches' | 'rises' | 'falls' | 'swings' | 'rests' | 'peaks' | 'never-more' | 'never-less' | 'sound'
    value?: number
    high?: number
    other?: (string | {
        name: string
        id?: string
    })[]
    share?: number
    from?: number
    until?: number
    runs?: number
    part?: number
    off?: boolean
    place?: number
}

export interface CalibrationRecord {
    id: string
    name: string
    free?: ({
        of: string
        at?: string[]
        low: number
        high: number
        log?: boolean
        law?: string
    })[]
    to?: ({
        evidence: string
        misses?: 'normal' | 'factor' | 'outliers' | 'tails' | 'count' | 'clustered'
    })[]
    from?: number
    until?: number
    using?: 'least-squares' | 'simplex' | 'evolution'
    starts?: number
    seed?: number
    trial?: boolean
    place?: number
}

export interface PolicyRecord {
    id: string
    name: string
    choose?: ({
        of: string
        at?: string[]
        low: number
        high: number
    })[]
    sum?: ({
        of: string
        at?: string[]
        kind?: 'last' | 'at' | 'min' | 'max' | 'mean' | 'total' | 'peak' | 'apart'
        time?: number
        from?: string
        weight?: number
    })[]
    small?: boolean
    limits?: ({
        of: string
        at?: string[]
        kind?: 'last' | 'at' | 'min' | 'max' | 'mean' | 'total' | 'peak' | 'apart'
        time?: number
        from?: string
        least?: boolean
        number: number
    })[]
    expect?: string[]
    over?: 'mean' | 'p5' | 'p95' | 'worst' | 'worst-twentieth' | 'regret'
    runs?: number
    seed?: number
    place?: number
}

export interface PartyRecord {
    id: string
    name: string
    note?: string
    place?: number
}

export interface ClaimRecord {
    id: string
    name: string
    debtor?: string
    holder?: string
    real?: boolean
    initial?: (string | {
        name: string
        id?: string
    })[]
    unit?: string
    rate?: (string | {
        name: string
        id?: string
    })[]
    over?: string[]
    limited?: boolean
    note?: string
    place?: number
}

export interface TransactionRecord {
    id: string
    name: string
    formula?: (string | {
        name: string
        id?: string
    })[]
    entries?: ({
        claim?: string
        worth?: string
        sign?: '+' | '-'
    })[]
    oneWay?: boolean
    note?: string
    place?: number
}

export interface ShowcaseRecord {
    id: string
    title: string
    lead?: string
    turned?: boolean
    inputs?: ({
        id: string
        of: string
        kind?: 'dial' | 'number' | 'switch' | 'list'
        words: string
        hint?: string
        low?: number
        high?: number
        step?: number
        lowWords?: string
        highWords?: string
        likely?: boolean
        choices?: ({
            words: string
            value: number
        })[]
    })[]
    steps?: ({
        id: string
        title: string
        words?: string
        scenario?: string
        parameters?: Record<string, number>
        inputs?: string[]
    })[]
    blocks?: ({
        id: string
        kind: 'text' | 'plot' | 'table' | 'map' | 'loops' | 'finding'
        step?: string
        words?: string
        of?: string[]
        numbers?: ({
            id: string
            of: string
            kind?: 'last' | 'at' | 'min' | 'max' | 'peak'
            time?: number
        })[]
        marks?: ({
            words: string
            of?: string
            number?: number
        })[]
        finding?: string
        width?: number
    })[]
    place?: number
}

export interface ReportRecord {
    id: string
    title: string
    words?: string
    paper?: 'a4' | 'letter'
    sections?: ({
        kind: 'question' | 'map' | 'structure' | 'runs' | 'data' | 'fits' | 'tests' | 'uncertainty' | 'findings' | 'variables' | 'history'
        words?: string
    })[]
    place?: number
}

export interface RosterRecord {
    id: string
    of: string
    note?: string
    since?: string
    most?: number
    entries?: ({
        id: string
        words: string
        of: string
        starts?: ({
            of: string
            from: string
        })[]
        joins?: Record<string, string>
    })[]
    exits?: ({
        id: string
        words: string
        kind: 'chance' | 'when'
        of: string
    })[]
    ties?: ({
        of: string
        made?: string
        ended?: string
        within?: string
        both?: boolean
    })[]
    classes?: {
        since: string
        width: number
        count: number
    }
    kept?: {
        of?: string[]
        moments?: number
    }
    seen?: {
        across?: string
        up?: string
        colour?: string
        size?: string
        plan?: string
        map?: string
        beneath?: {
            of: string
            across?: string
            up?: string
        }
    }
    hands?: ({
        of: string
        to: string
    })[]
}

export interface EvidenceRecord {
    id: string
    of: string
    at?: string[]
    source?: string
    column?: string
    unit?: string
    factor?: number
    over?: '' | 'mean' | 'sum'
    ends?: number[]
    cells?: string[]
    error?: number
    errorIn?: 'unit' | '%'
    errors?: number[]
    weight?: number
    points: ([number, number])[]
}

export interface OtherParts {
    scenarios: Record<string, ScenarioRecord>
    plots: Record<string, PlotRecord>
    findings: Record<string, FindingRecord>
    mappings: Record<string, MappingRecord>
    tables: Record<string, TableRecord>
    courses: Record<string, CoursesOfASeriesRecord>
    causalLinks: Record<string, CausalLinkRecord>
    questions: Record<string, QuestionRecord>
    boundary: Record<string, BoundaryLineRecord>
    modes: Record<string, ReferenceModeRecord>
    pairs: Record<string, PairRecord>
    parked: Record<string, ThingPutAsideRecord>
    actions: Record<string, ActionIdeaRecord>
    loopNames: Record<string, NameOfALoopRecord>
    wordings: Record<string, WordingRecord>
    sources: Record<string, SourceRecord>
    areas: Record<string, AreaMapRecord>
    uncertain: Record<string, UncertainInputRecord>
    rankPairs: Record<string, RankCorrelationRecord>
    outcomes: Record<string, OutcomeRecord>
    muted: Record<string, MutedInputRecord>
    candidates: Record<string, ListOfCandidatesRecord>
    expectations: Record<string, ExpectationRecord>
    calibrations: Record<string, CalibrationRecord>
    policies: Record<string, PolicyRecord>
    parties: Record<string, PartyRecord>
    claims: Record<string, ClaimRecord>
    transactions: Record<string, TransactionRecord>
    showcases: Record<string, ShowcaseRecord>
    reports: Record<string, ReportRecord>
    rosters: Record<string, RosterRecord>
    evidence: Record<string, EvidenceRecord>
}
