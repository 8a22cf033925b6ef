/** What many runs come to as one number, in words. */
export const OVER = [
    { value: 'mean' as const, words: 'on average' },
    { value: 'worst-twentieth' as const, words: 'in the worst twentieth' },
    { value: 'worst' as const, words: 'in the worst run' },
    { value: 'regret' as const, words: 'with the least regret' },
    { value: 'p5' as const, words: 'at the 5th percentile' },
    { value: 'p95' as const, words: 'at the 95th percentile' },
]

/** In how many runs a choice can be looked at, with the number that is said now. */
export const runsChoices = (now: number) =>
    [...new Set([0, 20, 50, 100, 200, now])]
        .sort((a, b) => a - b)
        .map((n) => ({ value: n, words: n ? `in ${n} runs under uncertainty` : 'in one run, as all stands' }))
