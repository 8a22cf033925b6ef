import type { Calibrated } from '@/api/types'
import { counted } from '@/ui/numbers'

/** Where a calibration stands, in few words. */
export function stateWords(fit: Calibrated | null): string {
    if (!fit) {
        return 'not begun'
    }
    if (fit.trouble) {
        return 'cannot go on'
    }
    if (fit.stopped) {
        return 'stopped'
    }
    if (!fit.finished) {
        return fit.kind === 'policy'
            ? 'looking for it'
            : fit.stage === 'chain'
              ? 'drawing what is left open'
              : fit.stage === 'profile'
                ? 'nearest found, looks around it'
                : `running, ${counted(searches(fit).length, 'start')}`
    }
    if (fit.kind === 'policy') {
        return fit.found?.value === null ? 'no run came to an end' : fit.found?.holds ? 'found' : 'limits cannot all be kept'
    }
    const again = fit.result?.again
    return again ? (again.held === again.of ? 'found again' : `${again.held} of ${again.of} found again`) : 'done'
}

export const searches = (fit: Calibrated) => fit.walks.filter((w) => w.name.startsWith('search'))
