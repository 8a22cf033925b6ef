import { expect, it } from 'vitest'
import { FAMILIES, outline, settled, spanOf, written } from '@/card/laws'
import type { Distribution } from '@/api/types'

const normal: Distribution = {
    law: 'normal(3.5, 1.3)',
    family: 'normal',
    numbers: [3.5, 1.3],
    low: null,
    high: null,
    percentiles: { '50': 3.5 },
    density: [
        [0, 0.01],
        [3.5, 0.3],
        [7, 0.01],
    ],
}

it('a distribution is written as formulas of laws are, with its limits', () => {
    expect(written('normal', [3.5, 1.3], null, null)).toBe('normal(3.5, 1.3)')
    expect(written('normal', [3.5, 1.3], 0, 10)).toBe('normal(3.5, 1.3) within 0..10')
    expect(written('gamma', [2, 0.1 + 0.2], 1, null)).toBe('gamma(2, 0.3) within 1..')
    expect(written('discrete', [1, 3, 2, 1], null, null)).toBe('discrete(1: 3, 2: 1)')
})

it('a handle changes the number that it stands for, and no spread becomes nothing', () => {
    const [mean, sd] = FAMILIES[0]?.numbers ?? []
    expect(mean?.place?.at([3.5, 1.3])).toBe(3.5)
    expect(sd?.place?.at([3.5, 1.3])).toBeCloseTo(4.8)
    expect(sd?.place?.from(5, [3.5, 1.3])).toBeCloseTo(1.5)
    expect(sd?.place?.from(1, [3.5, 1.3])).toBeGreaterThan(0)
})

it('places are rounded to what a pixel tells', () => {
    expect(settled(3.14159, 10)).toBe(3.1)
    expect(settled(0.0180713, 0.01)).toBe(0.0181)
    expect(settled(-1234.6, 5000)).toBe(-1230)
})

it('the picture shows all and a little beside, and its highest point touches the top', () => {
    const span = spanOf(normal)
    expect(span[0]).toBeLessThan(0)
    expect(span[1]).toBeGreaterThan(7)
    const d = outline(normal, span, 100, 50)
    expect(d).toMatch(/^M.*Z$/)
    expect(d).toContain(' 0.0')
    expect(outline({ ...normal, family: 'discrete' }, span, 100, 50)).not.toContain('Z')
})
