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
    const [said = ''] = fit.trial ? (fit.result?.sentences ?? []) : []
    return fit.trial ? (said.startsWith('Found again') ? 'found again' : 'not all found again') : 'done'
}

export const searches = (fit: Calibrated) => fit.walks.filter((w) => w.name.startsWith('search'))
