import { Sheet } from '@lucide/vue'
import { computed } from 'vue'
import { offered } from '@/find/command'
import type { Place } from '../place'
import AreaStage from './AreaStage.vue'
import DataStage from './DataStage.vue'
import FitCard from './FitCard.vue'
import SourcesPanel from './SourcesPanel.vue'
import { useData } from './useData'

/** Where tables of data are read, tied to the model, and held against its runs. */
export const dataPlace: Place = {
    name: 'data',
    words: 'Data',
    icon: Sheet,
    stages: [
        { name: 'data', words: 'Tables', shows: DataStage },
        { name: 'areas', words: 'Area map', shows: AreaStage },
    ],
    left: { shows: SourcesPanel, words: 'the sources' },
    right: FitCard,
    commands: () => {
        const data = useData()
        return computed(() => offered([data.table !== null && { words: 'Close the table of data', also: 'source file', run: data.close }]))
    },
    keys: [['Ctrl V', 'paste a block of a spreadsheet as a table']],
}
