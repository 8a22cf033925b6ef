import { describe, expect, it } from 'vitest'
import { pairsOf } from '@/card/curvePoints'

describe('points that are typed or pasted', () => {
    it('are a pair on each line, apart by spaces, a comma or a semicolon', () => {
        expect(pairsOf('0 1\n2.5 3\n\n4\t-5e-3')).toEqual([
            [0, 1],
            [2.5, 3],
            [4, -0.005],
        ])
        expect(pairsOf('0, 1\n2,3')).toEqual([
            [0, 1],
            [2, 3],
        ])
        expect(pairsOf('0,5; 1,25\n2;3')).toEqual([
            [0.5, 1.25],
            [2, 3],
        ])
        expect(pairsOf('0,5 1,25\n2 3')).toEqual([
            [0.5, 1.25],
            [2, 3],
        ])
    })
    it('come out of a spreadsheet with heads, a decimal comma and thousands apart', () => {
        expect(pairsOf('Time\tKelp [t]\r\n0\t1 250,5\r\n2\t\u22123,25\r\n')).toEqual([
            [0, 1250.5],
            [2, -3.25],
        ])
    })
    it('may run across', () => {
        expect(pairsOf('0\t1\t2\n5\t6,5\t7')).toEqual([
            [0, 5],
            [1, 6.5],
            [2, 7],
        ])
        expect(pairsOf('time\t0\t1\nkelp\t5\t6')).toEqual([
            [0, 5],
            [1, 6],
        ])
    })
    it('say which line is wrong', () => {
        expect(pairsOf('0 1\n2 x')).toBe('Line 2 is no pair of numbers: `2 x`. Write x and y with a space or tab between them.')
        expect(pairsOf('0 1 2\n3 4 5\n6 7 8')).toContain('Line 1')
        expect(pairsOf('0\t1\n2\t')).toContain('Line 2')
        expect(pairsOf('')).toEqual([])
    })
})
