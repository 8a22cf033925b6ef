import { Target } from '@lucide/vue'
import { computed } from 'vue'
import { offered } from '@/find/command'
import { useFits } from '@/stores/fits'
import { counted } from '@/ui/numbers'
import type { Place } from '../place'
import FitStage from './FitStage.vue'
import NumbersCard from './NumbersCard.vue'
import QuestionsPanel from './QuestionsPanel.vue'

/** Where numbers are brought near to what was measured, and what the data leave open is seen. */
export const fitPlace: Place = {
    name: 'fit',
    words: 'Fit',
    icon: Target,
    stages: [{ name: 'fit', words: 'Fit', shows: FitStage, footless: true }],
    left: { shows: QuestionsPanel, words: 'the questions to the data' },
    right: NumbersCard,
    state: () => {
        const fits = useFits()
        return computed(() => {
            const busy = fits.all.find((f) => !f.finished && !f.stopped)
            return busy ? `fitting · ${counted(busy.runs, 'run').replace(String(busy.runs), busy.runs.toLocaleString())}` : ''
        })
    },
    commands: () => {
        const fits = useFits()
        return computed(() =>
            offered([
                fits.plan !== null && !fits.running && { words: 'Start the fit', also: 'calibrate calibration estimate', run: fits.begin },
                fits.running && { words: 'Stop the fit', also: 'calibration', run: fits.stop },
            ]),
        )
    },
}
