import { Droplets } from '@lucide/vue'
import { computed } from 'vue'
import SheetCanvas from '@/canvas/SheetCanvas.vue'
import { useModel } from '@/stores/model'
import type { Place } from '../place'
import AtlasStage from './atlas/AtlasStage.vue'
import HistoryStage from './history/HistoryStage.vue'
import OutlinePanel from './OutlinePanel.vue'
import { useModelCommands } from './useModelCommands'

/** Where the model is built. */
export const modelPlace: Place = {
    name: 'model',
    words: 'Model',
    icon: Droplets,
    stages: [
        { name: 'sheet', words: 'Sheet', shows: SheetCanvas },
        { name: 'atlas', words: 'Atlas', shows: AtlasStage },
        { name: 'history', words: 'History', shows: HistoryStage, alone: true },
    ],
    left: { shows: OutlinePanel, words: 'the outline' },
    attention: () => {
        const model = useModel()
        return computed(() => model.blockers.length)
    },
    commands: useModelCommands,
    keys: [
        ['Double-click', 'choose what to add at that spot; on a thing: rename it'],
        ['Arrows', 'travel along links from thing to thing; with Shift select more'],
        ['Ctrl + arrows', 'move what is selected'],
        ['Enter', 'open the formula in place; Enter again takes it over'],
        ['Delete', 'delete, to be undone'],
        ['Ctrl C · X · V · D', 'copy, cut, paste, copy and paste at once'],
        ['Ctrl A', 'select all on the sheet'],
        ['Shift + click or drag', 'select more'],
        ['Alt while dragging', 'do not snap'],
    ],
}
