import { describe, expect, it } from 'vitest'
import {
    fieldText,
    fieldValue,
    full,
    literal,
    niceAbove,
    plainly,
    rounded,
    short,
    shownUnit,
    signed,
    takesPrefix,
    tickWords,
    withUnit,
} from '@/ui/numbers'

describe('numbers at a glance', () => {
    it.each([
        [0, '0'],
        [1, '1'],
        [-2.34567, '−2.35'],
        [58_714, '58.7 k'],
        [999.6, '1 k'],
        [999.4, '999'],
        [1_234_567, '1.23 M'],
        [3e9, '3 G'],
        [4.2e12, '4.2 T'],
        [0.0175, '0.0175'],
        [0.00012345, '0.000123'],
        [-58_714, '−58.7 k'],
        [999_950, '1 M'],
    ])('%d is shown as %s', (value, words) => {
        expect(short(value)).toBe(words)
    })

    it('writes very large and very small numbers with an exponent', () => {
        expect([short(1.5e20), short(2e-7), short(-4.38e11, { unit: 'thousand' })]).toEqual(['1.5·10²⁰', '2·10⁻⁷', '−4.38·10¹¹'])
    })

    it('takes no prefix where the unit is a multiple already, a time or per cent', () => {
        expect(['kg', 'km^2', 'thousand', 'million t', 'ML', 'MW', 'year', 'weeks', '%', 'ppm'].filter(takesPrefix)).toEqual([])
        expect(
            ['t', 'person', '', '1', 'm', 'g', 'crown', 'kelp', 'mussel', 'cart', 'yearling', 'person/year'].filter((u) => !takesPrefix(u)),
        ).toEqual([])
        expect([short(5060, { unit: 'thousand' }), short(50_600, { unit: 'kg' }), short(438_000, { unit: 'year' })]).toEqual([
            '5,060',
            '50,600',
            '438,000',
        ])
    })

    it('shows per cent as a way to write a number, in fields too', () => {
        expect([short(0.955, { unit: '%' }), withUnit(0.955, '%'), full(0.955, '%')]).toEqual(['95.5', '95.5 %', '95.5'])
        expect([fieldText(0.05, '%'), fieldText(0.05, ''), fieldText(0.07, 'percent')]).toEqual(['5%', '0.05', '7%'])
        expect([fieldValue('6', '%'), fieldValue('6%', '%'), fieldValue('5%', ''), fieldValue('1.5', 't'), fieldValue('−2', '')]).toEqual([
            0.06, 0.06, 0.05, 1.5, -2,
        ])
        expect(['0,25', ',5', '-1,5', '12,3456', '0,250', '2,5 %'].map((t) => fieldValue(t, ''))).toEqual([
            0.25, 0.5, -1.5, 12.3456, 0.25, 0.025,
        ])
        // A thousand and two hundred, or one and a fifth? And what is neither.
        expect(['1,200', '1,2,3', '1.200,5', '1,5e3', ','].map((t) => fieldValue(t, '')).every(Number.isNaN)).toBe(true)
        expect([fieldValue('soon', ''), fieldValue('', ''), fieldValue('5 t', 't')].every(Number.isNaN)).toBe(true)
    })

    it('tells what is nothing beside its own size as about 0', () => {
        expect([
            short(-4.09e-8, { size: 1000 }),
            short(-4.09e-8, { size: 1e-7 }),
            short(0, { size: 5 }),
            signed(3e-12, { size: 1 }),
        ]).toEqual(['≈ 0', '−4.09·10⁻⁸', '0', '≈ 0'])
    })

    it('has a dash for what is not there', () => {
        for (const nothing of [undefined, null, NaN, Infinity]) {
            expect(short(nothing)).toBe('–')
        }
    })

    it('gives all that can be told on demand', () => {
        expect(full(1234.56789012)).toBe('1,234.56789012')
    })
})

describe('numbers in formulas', () => {
    it.each([
        [0.1 + 0.2, '0.3'],
        [1e21, '1e+21'],
        [0.0175, '0.0175'],
        [4200, '4200'],
        [-1.5, '-1.5'],
    ])('%d is written %s', (value, text) => {
        expect(literal(value)).toBe(text)
        expect(Number(literal(value))).toBeCloseTo(value, 12)
    })
})

describe('units', () => {
    it.each([
        ['m^3/week', 'm³/week'],
        ['kg*m/s^2', 'kg*m/s²'],
        ['1/year', '/year'],
        ['m^-1', 'm⁻¹'],
        ['person', 'person'],
    ])('%s is read %s', (unit, shown) => {
        expect(shownUnit(unit)).toBe(shown)
    })

    it('leaves out what has no dimension', () => {
        expect(withUnit(0.25, '1')).toBe('0.25')
        expect(withUnit(0.25, '')).toBe('0.25')
        expect(withUnit(4200, 'person')).toBe('4.2 k person')
    })
})

describe('the top of an axis', () => {
    it.each([
        [0, 0],
        [-3, 0],
        [1, 1],
        [1.1, 1.2],
        [17, 20],
        [99, 100],
        [350_539, 400_000],
        [0.0871, 0.1],
        [0.371, 0.4],
    ])('for %d is %d', (value, top) => {
        expect(niceAbove(value)).toBeCloseTo(top, 12)
    })

    it('is never below the value and never more than twice it', () => {
        for (let i = 1; i < 2000; i++) {
            const value = i * 0.0173
            expect(niceAbove(value)).toBeGreaterThanOrEqual(value * (1 - 1e-9))
            expect(niceAbove(value)).toBeLessThanOrEqual(value * 2)
        }
    })
})

describe('the numbers on an axis', () => {
    it('have one prefix, as many digits as they need, and a true minus', () => {
        expect(tickWords([0, 250_000, 500_000, 750_000, 1_000_000])).toEqual(['0', '0.25 M', '0.50 M', '0.75 M', '1.00 M'])
        expect(tickWords([1_000_000, 1_000_100, 1_000_200])).toEqual(['1.0000 M', '1.0001 M', '1.0002 M'])
        expect(tickWords([-40, -20, 0, 20])).toEqual(['−40', '−20', '0', '20'])
        expect(tickWords([0, 0.005, 0.01], '%')).toEqual(['0', '0.5', '1.0'])
        expect(tickWords([0, 2e9, 4e9], 'kg')).toEqual(['0', '2·10⁹', '4·10⁹'])
    })

    it('is without what the last digits of a sum are off', () => {
        expect([rounded(0.15000000000000002), rounded(0.1 + 0.2)]).toEqual([0.15, 0.3])
    })
})

describe('numbers for readers', () => {
    it('stand without prefixes, on axes as in words', () => {
        expect([2400, 12345.6, 0.54321, -0.5, 1e6, 0].map((v) => plainly(v))).toEqual([
            '2,400',
            '12,346',
            '0.543',
            '−0.5',
            '1,000,000',
            '0',
        ])
        expect(plainly(0.955, '%')).toBe('95.5')
        expect(plainly(null)).toBe('–')
        expect(tickWords([0, 2000, 4000], 'person', false)).toEqual(['0', '2,000', '4,000'])
        expect(tickWords([0, 2000, 4000], 'person')).toEqual(['0', '2 k', '4 k'])
    })
})
