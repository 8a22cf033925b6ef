import { computed } from 'vue'
import { offered, type Command } from '@/find/command'
import { PLACES } from '@/places'
import { useCatalogue } from '@/stores/catalogue'
import { useExports } from '@/stores/exports'
import { useKeys } from '@/stores/keys'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { usePage } from '@/stores/page'
import { useView } from '@/stores/view'

/** Everything that can be done, by its words: what each place offers, and what can be done anywhere. */
export function useCommands() {
    const model = useModel()
    const page = usePage()
    const view = useView()
    const keys = useKeys()
    const catalogue = useCatalogue()
    const exports = useExports()
    const notices = useNotices()
    const ofPlaces = PLACES.map((place) => place.commands?.())

    const copied = (name: string) => `${name}() is on the clipboard. In a formula its first letters bring it, too.`
    function copy(name: string) {
        void navigator.clipboard.writeText(`${name}()`).then(
            () => {
                notices.say(copied(name))
            },
            () => undefined,
        )
    }

    const anywhere = computed(() =>
        offered([
            {
                words: 'Find in the model',
                key: keys.word('find'),
                run: () => {
                    view.over = 'find'
                },
            },
            {
                words: 'Replace a unit or a part of names in many things',
                run: () => {
                    view.over = 'replace'
                },
            },
            {
                words: 'Show the health list and the time settings',
                run: () => {
                    view.select()
                    view.card = true
                },
            },
            model.steps.undo && {
                words: `Undo: ${model.steps.undo}`,
                key: 'Ctrl Z',
                run: () => {
                    void model.step('undo')
                },
            },
            model.steps.redo && {
                words: `Redo: ${model.steps.redo}`,
                key: 'Ctrl Shift Z',
                run: () => {
                    void model.step('redo')
                },
            },
            {
                words: view.playing ? 'Pause' : 'Play',
                key: keys.word('play'),
                run: () => {
                    view.playing = !view.playing
                },
            },
            {
                words: view.outline ? 'Hide the outline' : 'Show the outline',
                run: () => {
                    view.outline = !view.outline
                },
            },
            {
                words: view.card ? 'Hide the card' : 'Show the card',
                run: () => {
                    view.card = !view.card
                },
            },
            {
                words: view.tracks ? 'Fold the tracks' : 'Show the tracks',
                run: () => {
                    view.tracks = !view.tracks
                },
            },
            { words: page.theme === 'dark' ? 'Light theme' : 'Dark theme', run: page.changeTheme },
            {
                words: 'Export as a model file',
                run: () => {
                    void exports.exportStudy(model.study, 'native')
                },
            },
            {
                words: 'Export as XMILE',
                run: () => {
                    void exports.exportStudy(model.study, 'xmile')
                },
            },
            ...catalogue.content.functions.map((f) => ({
                words: `Function ${f.signature}: ${f.sentence}`,
                also: f.synonyms.join(' '),
                run: () => {
                    copy(f.name)
                },
            })),
            {
                words: 'List the keys',
                key: keys.word('keys'),
                run: () => {
                    view.over = 'keys'
                },
            },
        ]),
    )

    return computed<Command[]>(() => [...ofPlaces.flatMap((commands) => commands?.value ?? []), ...anywhere.value])
}
