import type { Level, Levels } from '@/api/types'

/** What levels are called, and how they are drawn everywhere. */
export const LEVELS: Record<Level['level'], { words: string; colour: string; dash: string }> = {
    members: { words: 'single members', colour: '--ink', dash: '' },
    classes: { words: 'classes', colour: '--run-0', dash: '8 4' },
    one: { words: 'one aggregate', colour: '--run-1', dash: '2 3' },
}

/** What a level says at a time: at the saved moment at or before it. */
export function levelAt(told: Levels, level: Level, time: number): number | null {
    let found = -1
    told.times.forEach((t, i) => {
        found = t <= time + 1e-9 ? i : found
    })
    return level.values[found] ?? null
}
