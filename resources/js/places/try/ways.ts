import { BookOpenText, ChartLine, ChartSpline, Gauge, GitBranch, Grid3x3, ListChecks, Rows3, SlidersHorizontal, Star } from '@lucide/vue'

/** The ways to look at what was tried: their names in the address, their tabs. */
export const WAYS = [
    { name: 'plot', words: 'Plots', icon: ChartLine },
    { name: 'scenarios', words: 'Scenarios', icon: Rows3 },
    { name: 'candidates', words: 'Candidates', icon: Grid3x3, wide: true },
    { name: 'spread', words: 'Spread', icon: ChartSpline, wide: true },
    { name: 'nudge', words: 'Nudge', icon: SlidersHorizontal, wide: true },
    { name: 'expectations', words: 'Expectations', icon: ListChecks, wide: true },
    { name: 'trail', words: 'Trail', icon: GitBranch },
    { name: 'values', words: 'Values', icon: Gauge },
    { name: 'logbook', words: 'Logbook', icon: BookOpenText },
    { name: 'findings', words: 'Findings', icon: Star },
] as const
