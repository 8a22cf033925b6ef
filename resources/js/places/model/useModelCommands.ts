import { computed } from 'vue'
import type { Kind } from '@/api/types'
import { offered, type Command } from '@/find/command'
import { useKeys } from '@/stores/keys'
import { useModel } from '@/stores/model'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
import { ARRANGEMENTS } from '@/ui/arrange'
import { newId } from '@/ui/ids'
import { KINDS } from '@/ui/kinds'
import { placeBehind } from '@/ui/records'

/** What can be done while building. */
export function useModelCommands() {
    const model = useModel()
    const tracks = useTracks()
    const view = useView()
    const keys = useKeys()
    const onSheet = () => view.place === 'model' && view.stage === 'sheet'

    function show(sheet = view.sheet) {
        view.go({ place: 'model', stage: 'sheet', sheet })
    }

    function ask(asked: string) {
        if (!onSheet()) {
            show()
        }
        view.asked = asked
    }

    function add(kind: Kind) {
        if (!onSheet()) {
            show()
        }
        view.wanted = kind
    }

    function keepSheet() {
        const name = model.model.sheets.find((s) => s.id === view.sheet)?.name ?? 'Sheet'
        const seen = { kind: 'sheet' as const, sheet: view.sheet, selection: view.selection, playhead: view.playhead }
        void model.attempt({ kind: 'finding', id: newId(), title: name, words: '', view: seen, place: placeBehind(model.model.findings) })
    }

    function remove() {
        const ids = view.selection
        view.select()
        void model.remove(ids)
    }

    function users(name: string) {
        view.sought = { text: name, field: 'formula' }
        view.over = 'find'
    }

    return computed<Command[]>(() => {
        const some = view.selection.length > 0
        const several = view.selection.length > 1
        const one = view.selected ? model.model.elements[view.selected] : undefined
        return offered([
            one && {
                words: `Give the formula of ${one.name}`,
                key: 'Enter',
                run: () => {
                    view.saying = one.id
                },
            },
            one && {
                words: `Rename ${one.name}`,
                key: keys.word('rename'),
                run: () => {
                    view.naming = one.id
                },
            },
            one && {
                words: `Echo ${one.name}`,
                key: keys.word('echo'),
                run: () => {
                    ask('echo')
                },
            },
            one && {
                words: `Go to where ${one.name} is defined`,
                run: () => {
                    view.goTo(one.id)
                },
            },
            one && {
                words: `Who uses ${one.name}?`,
                run: () => {
                    users(one.name)
                },
            },
            one && {
                words: `Show what ${one.name} is joined to, in the atlas`,
                run: () => {
                    view.go({ place: 'model', stage: 'atlas', selection: [one.id] })
                },
            },
            ...KINDS.map((kind) => ({
                words: `Add ${kind === 'auxiliary' ? 'an' : 'a'} ${kind}`,
                key: kind === 'flow' ? '' : keys.word(kind),
                run: () => {
                    add(kind)
                },
            })),
            some && { words: several ? 'Delete the selected things' : `Delete ${one?.name ?? 'it'}`, key: 'Delete', run: remove },
            some && {
                words: 'Copy',
                key: 'Ctrl C',
                run: () => {
                    ask('copy')
                },
            },
            some && {
                words: 'Copy and paste at once',
                key: 'Ctrl D',
                run: () => {
                    ask('double')
                },
            },
            {
                words: 'Paste',
                key: 'Ctrl V',
                run: () => {
                    ask('paste')
                },
            },
            ...(several
                ? ARRANGEMENTS.map((a) => ({
                      words: a.words,
                      run: () => {
                          ask(a.key)
                      },
                  }))
                : []),
            {
                words: several ? 'Tidy up what is selected' : 'Tidy up this sheet',
                run: () => {
                    ask('tidy')
                },
            },
            {
                words: 'Fit the sheet into the window',
                key: keys.word('fit'),
                run: () => {
                    ask('fit')
                },
            },
            some && {
                words: 'Fit the selection into the window',
                key: keys.word('selection'),
                run: () => {
                    ask('fit-selection')
                },
            },
            ...model.model.sheets
                .filter((s) => s.id !== view.sheet || !onSheet())
                .map((s) => ({
                    words: `Open the sheet ${s.name}`,
                    run: () => {
                        show(s.id)
                    },
                })),
            one &&
                one.kind !== 'curve' && {
                    words: `Show or hide the track of ${one.name}`,
                    key: keys.word('track'),
                    run: () => {
                        void tracks.show([one.id], !tracks.has(one.id))
                    },
                },
            onSheet() && { words: 'Save this sheet as a finding', run: keepSheet },
            {
                words: 'Open the atlas',
                run: () => {
                    view.go({ place: 'model', stage: 'atlas' })
                },
            },
            {
                words: 'Open the history',
                run: () => {
                    view.go({ place: 'model', stage: 'history' })
                },
            },
            {
                words: view.strengths ? 'Draw all links alike' : 'Draw links as strongly as they act',
                run: () => {
                    view.strengths = !view.strengths
                },
            },
            {
                words: view.minimap ? 'Hide the small map' : 'Show the small map',
                run: () => {
                    view.minimap = !view.minimap
                },
            },
        ])
    })
}
