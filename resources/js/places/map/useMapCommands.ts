import { computed } from 'vue'
import type { Command } from '@/find/command'
import { useView } from '@/stores/view'
import { useMap } from './useMap'

export function useMapCommands() {
    const view = useView()
    const map = useMap()
    function ask(what: string) {
        if (view.place !== 'map' || view.stage !== 'map') {
            view.go({ place: 'map', stage: 'map', selection: view.selection })
        }
        view.asked = what
    }
    return computed<Command[]>(() => [
        { words: 'Say a cause and its effect', also: 'map link factor', run: () => ask('map-line') },
        { words: 'Fit the map', also: 'zoom whole', run: () => ask('map-fit') },
        { words: 'Lay the map out anew', also: 'tidy arrange layout', run: () => ask('map-tidy') },
        { words: 'Read the map as sentences', also: 'list links', run: () => view.go({ place: 'map', stage: 'sentences' }) },
        {
            words: 'Save the map as a drawing (SVG)',
            also: 'export picture image',
            run: () => {
                ask('map-svg')
            },
        },
        {
            words: 'Save the map as a picture (PNG)',
            also: 'export image',
            run: () => {
                ask('map-png')
            },
        },
        {
            words: 'Put a common structure on the map',
            also: 'pattern rivals limit pool backfire',
            run: () => {
                view.go({ place: 'map', stage: 'structures' })
            },
        },
        {
            words: 'Open the workshop view',
            also: 'room projector facilitate votes slips record',
            run: () => {
                view.go({ place: 'map', stage: 'room' })
            },
        },
        ...(map.isPlayed ? [{ words: 'Let all hands on the map go', also: 'reset play sketch', run: map.calm }] : []),
    ])
}
