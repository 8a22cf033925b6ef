import { describe, expect, it } from 'vitest'
import { dateAfter, dateWords } from '@/ui/dates'

const day = (date: Date | undefined) => date?.toISOString().slice(0, 10)

describe('dates of a run', () => {
    it.each([
        ['2031-04-01', 0, 'year', '2031-04-01'],
        ['2031-04-01', 2, 'years', '2033-04-01'],
        ['2031-04-01', 0.5, 'year', '2031-10-01'],
        ['2031-01-15', 14, 'Month', '2032-03-15'],
        ['2031-01-01', 1.5, 'months', '2031-02-15'],
        ['2031-01-01', 3, 'quarter', '2031-10-01'],
        ['2031-01-01', 10, 'wk', '2031-03-12'],
        ['2031-01-01', -1, 'day', '2030-12-31'],
        ['2031-01-01', 48, 'hours', '2031-01-03'],
    ])('%s and %d %s is %s', (start, elapsed, unit, expected) => {
        expect(day(dateAfter(start, elapsed, unit))).toBe(expected)
    })

    it('knows no dates for other units or broken starts', () => {
        expect(dateAfter('2031-01-01', 3, 'round')).toBeUndefined()
        expect(dateAfter('soon', 3, 'day')).toBeUndefined()
    })

    it('says as much as marks need', () => {
        const date = new Date('2031-04-09T15:30:00Z')
        expect(dateWords(date, 10, 'year')).toBe('2031')
        expect(dateWords(date, 10, 'week')).toMatch(/Apr 2031|April 2031/)
        expect(dateWords(date, 5, 'day')).toContain('9')
        expect(dateWords(date, 6, 'hour')).toContain('15:30')
    })
})
