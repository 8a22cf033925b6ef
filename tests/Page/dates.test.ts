import { describe, expect, it } from 'vitest'
import { dateAt, dateWords } from '@/ui/dates'
import { roundTimes } from '@/charts/useTimeMarks'

/** Midnights of 2031, in seconds since 1970. */
const at = (date: string) => new Date(`${date}T00:00:00Z`).getTime() / 1000
const day = (date: Date | undefined) => date?.toISOString().slice(0, 10)

describe('dates of a run', () => {
    it('go evenly between the moments that the engine tells, and on beyond the last', () => {
        const anchors: [number, number][] = [
            [0, at('2031-01-01')],
            [1, at('2031-02-01')],
            [2, at('2031-03-01')],
        ]
        expect([0, 1, 1.5, 2].map((t) => day(dateAt(t, anchors)))).toEqual(['2031-01-01', '2031-02-01', '2031-02-15', '2031-03-01'])
        expect(day(dateAt(2.5, anchors))).toBe('2031-03-15')
    })

    it('are none without a calendar', () => {
        expect(dateAt(3, null)).toBeUndefined()
        expect(dateAt(3, [[0, 0]])).toBeUndefined()
        // Before a run is there, nobody knows where the playhead stands.
        const anchors: [number, number][] = [
            [0, 0],
            [1, 86_400],
        ]
        expect(dateAt(NaN, anchors)).toBeUndefined()
        expect(dateAt(Infinity, anchors)).toBeUndefined()
    })

    it('say as much as marks need', () => {
        const date = new Date('2031-04-09T15:30:00Z')
        expect(dateWords(date, 'year')).toBe('2031')
        expect(dateWords(date, 'month')).toMatch(/Apr 2031|April 2031/)
        expect(dateWords(date, 'day')).toContain('9')
        expect(dateWords(date, 'hour')).toContain('15:30')
    })
})

describe('marks on an axis of time', () => {
    it('are round numbers without a prefix, and no longer than 12 digits', () => {
        expect(
            roundTimes(0, 60, 6)
                .filter((m) => m.words)
                .map((m) => m.words),
        ).toEqual(['0', '10', '20', '30', '40', '50', '60'])
        expect(
            roundTimes(0, 20_000, 4)
                .filter((m) => m.words)
                .map((m) => m.words),
        ).toEqual(['0', '5,000', '10,000', '15,000', '20,000'])
        expect(roundTimes(0, 0.3, 3).map((m) => m.time)).toContain(0.1)
        for (const { time } of roundTimes(0, 1, 7)) {
            expect(String(time).length).toBeLessThan(14)
        }
    })
})
