import { describe, expect, it } from 'vitest'
import { full, literal, niceAbove, short, shownUnit, withUnit } from '@/ui/numbers'

describe('numbers at a glance', () => {
    it.each([
        [0, '0'], [1, '1'], [-2.34567, '-2.35'], [58_714, '58.7 k'], [999.6, '1 k'], [999.4, '999'], [1_234_567, '1.23 M'], [3e9, '3 G'], [4.2e12, '4.2 T'],
        [0.0175, '0.0175'], [0.00012345, '0.000123'], [-58_714, '-58.7 k'], [999_950, '1 M'],
    ])('%d is shown as %s', (value, words) => { expect(short(value)).toBe(words) })

    it('writes very large and very small numbers with an exponent', () => {
        expect(short(1.5e20)).toMatch(/^1\.5E20$/i)
        expect(short(2e-7)).toMatch(/^2E-7$/i)
    })

    it('has a dash for what is not there', () => {
        for (const nothing of [undefined, null, NaN, Infinity]) {
            expect(short(nothing)).toBe('–')
        }
    })

    it('gives all that can be told on demand', () => { expect(full(1234.56789012)).toBe('1,234.56789012') })
})

describe('numbers in formulas', () => {
    it.each([[0.1 + 0.2, '0.3'], [1e21, '1e+21'], [0.0175, '0.0175'], [4200, '4200'], [-1.5, '-1.5']])('%d is written %s', (value, text) => {
        expect(literal(value)).toBe(text)
        expect(Number(literal(value))).toBeCloseTo(value, 12)
    })
})

describe('units', () => {
    it.each([['m^3/week', 'm³/week'], ['kg*m/s^2', 'kg*m/s²'], ['1/year', '/year'], ['m^-1', 'm⁻¹'], ['person', 'person']])('%s is read %s', (unit, shown) => { expect(shownUnit(unit)).toBe(shown) })

    it('leaves out what has no dimension', () => {
        expect(withUnit(0.25, '1')).toBe('0.25')
        expect(withUnit(0.25, '')).toBe('0.25')
        expect(withUnit(4200, 'person')).toBe('4.2 k person')
    })
})

describe('the top of an axis', () => {
    it.each([[0, 0], [-3, 0], [1, 1], [1.1, 1.2], [17, 20], [99, 100], [350_539, 400_000], [0.0871, 0.1], [0.371, 0.4]])('for %d is %d', (value, top) => { expect(niceAbove(value)).toBeCloseTo(top, 12) })

    it('is never below the value and never more than twice it', () => {
        for (let i = 1; i < 2000; i++) {
            const value = i * 0.0173
            expect(niceAbove(value)).toBeGreaterThanOrEqual(value * (1 - 1e-9))
            expect(niceAbove(value)).toBeLessThanOrEqual(value * 2)
        }
    })
})
