import { Waypoints } from '@lucide/vue'
import { computed } from 'vue'
import type { Place } from '../place'
import MapCard from './MapCard.vue'
import MapStage from './MapStage.vue'
import SentencesStage from './SentencesStage.vue'
import SketchFoot from './SketchFoot.vue'
import RoomStage from './room/RoomStage.vue'
import StructuresStage from './StructuresStage.vue'
import { useMap } from './useMap'
import { useMapCommands } from './useMapCommands'

/** Where causes and effects are said, read as sentences, and played without numbers. */
export const mapPlace: Place = {
    name: 'map',
    words: 'Map',
    icon: Waypoints,
    stages: [
        { name: 'map', words: 'Map', shows: MapStage },
        { name: 'sentences', words: 'Sentences', shows: SentencesStage },
        { name: 'structures', words: 'Structures', shows: StructuresStage, alone: true, footless: true },
        { name: 'room', words: 'Room', shows: RoomStage, alone: true },
    ],
    right: MapCard,
    foot: SketchFoot,
    state: () => {
        const map = useMap()
        return computed(() =>
            !map.factors.length ? 'empty map' : map.read ? `sketch up to date · ${map.milliseconds} ms` : 'reading the map',
        )
    },
    commands: useMapCommands,
    keys: [
        ['Any letter', 'goes to the line at the foot of the map'],
        ['Tab, → in the line', 'take the name that is offered'],
        ['+ − ? ~ in the line', 'before the effect: same way, turned over, open, late'],
        ['Arrows', 'travel along links from factor to factor'],
        ['Ctrl + arrows', 'move what is selected'],
        ['+ · − · =', 'push what is selected up or down, hold it where it is'],
        ['Backspace, Delete', 'delete what is selected, to be undone'],
    ],
}
