import { computed } from 'vue'
import { ARRANGEMENTS } from '@/ui/arrange'
import { useCatalogue } from '@/stores/catalogue'
import { useCourses } from '@/stores/courses'
import { useExports } from '@/stores/exports'
import { useKeys } from '@/stores/keys'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useTracks } from '@/stores/tracks'
import { TRY, useView, type TryStage } from '@/stores/view'
import { newId } from '@/ui/ids'
import { placeBehind } from '@/ui/records'

const NAMES: Record<TryStage, string> = { plot: 'the plots', scenarios: 'the scenarios', trail: 'the trail', values: 'values side by side', logbook: 'the logbook', findings: 'the findings' }

export interface Command { words: string, key?: string, /** Other words it is found by. */ also?: string, run: () => void }

/** Everything that can be done, by its words; what makes no sense at the moment is left out. */
export function useCommands() {
    const model = useModel()
    const tracks = useTracks()
    const view = useView()
    const keys = useKeys()
    const runs = useRuns()
    const courses = useCourses()
    const catalogue = useCatalogue()
    const exports = useExports()
    const notices = useNotices()

    function keepSheet() {
        const name = model.model.sheets.find((s) => s.id === view.sheet)?.name ?? 'Sheet'
        void model.attempt({ kind: 'finding', id: newId(), title: name, words: '', view: { kind: 'sheet', sheet: view.sheet, selection: view.selection, playhead: view.playhead }, place: placeBehind(model.model.findings) })
    }

    const onSheet = (asked: string) => {
        if (view.stage !== 'sheet') {
            view.go({ stage: 'sheet' })
        }
        view.asked = asked
    }

    return computed<Command[]>(() => {
        const several = view.selection.length > 1
        const one = view.selected ? model.model.elements[view.selected] : undefined
        const list: (Command | false | '' | null | undefined)[] = [
            one && { words: `Give the formula of ${one.name}`, key: 'Enter', run: () => { view.saying = one.id } },
            one && { words: `Rename ${one.name}`, key: keys.word('rename'), run: () => { view.naming = one.id } },
            one && { words: `Echo ${one.name}`, key: keys.word('echo'), run: () => { onSheet('echo') } },
            one && { words: `Go to where ${one.name} is defined`, run: () => { view.goTo(one.id) } },
            one && { words: `Who uses ${one.name}?`, run: () => { view.sought = { text: one.name, field: 'formula' }; view.over = 'find' } },
            one && { words: `Show what ${one.name} is joined to, in the atlas`, run: () => { view.go({ stage: 'atlas', selection: [one.id] }) } },
            ...(['stock', 'flow', 'auxiliary', 'parameter', 'curve', 'series'] as const).map((kind) => ({ words: `Add ${kind === 'auxiliary' ? 'an' : 'a'} ${kind}`, key: kind === 'flow' ? '' : keys.word(kind), run: () => { if (view.stage !== 'sheet') view.go({ stage: 'sheet' }); view.wanted = kind } })),
            view.selection.length > 0 && { words: several ? 'Delete the selected things' : `Delete ${one?.name ?? 'it'}`, key: 'Delete', run: () => { const ids = view.selection; view.select(); void model.remove(ids) } },
            view.selection.length > 0 && { words: 'Copy', key: 'Ctrl C', run: () => { onSheet('copy') } },
            view.selection.length > 0 && { words: 'Copy and paste at once', key: 'Ctrl D', run: () => { onSheet('double') } },
            { words: 'Paste', key: 'Ctrl V', run: () => { onSheet('paste') } },
            ...(several ? ARRANGEMENTS.map((a) => ({ words: a.words, run: () => { onSheet(a.key) } })) : []),
            { words: several ? 'Tidy up what is selected' : 'Tidy up this sheet', run: () => { onSheet('tidy') } },
            { words: 'Fit the sheet into the window', key: keys.word('fit'), run: () => { onSheet('fit') } },
            view.selection.length > 0 && { words: 'Fit the selection into the window', key: keys.word('selection'), run: () => { onSheet('fit-selection') } },
            ...model.model.sheets.filter((s) => s.id !== view.sheet || view.stage !== 'sheet').map((s) => ({ words: `Open the sheet ${s.name}`, run: () => { view.go({ stage: 'sheet', sheet: s.id }) } })),
            ...TRY.map((stage) => ({ words: `Open ${NAMES[stage]}`, run: () => { view.go({ stage, selection: view.selection }) } })),
            one && one.kind !== 'curve' && { words: `Show or hide the track of ${one.name}`, key: keys.word('track'), run: () => { void tracks.show([one.id], !tracks.has(one.id)) } },
            one && one.kind !== 'curve' && { words: `Why does ${one.name} change? Follow the causes`, run: () => { view.trail = one.id; view.go({ stage: 'trail', selection: [one.id] }) } },
            runs.tried && { words: 'Reset dials and hands to the model’s values', run: () => { runs.put() } },
            { words: 'Keep this run', run: () => { void courses.keep(`Run ${courses.kept.length + 1}`) } },
            view.stage === 'sheet' && { words: 'Save this sheet as a finding', run: keepSheet },
            { words: 'Open the atlas', run: () => { view.go({ stage: 'atlas' }) } },
            { words: 'Open the history', run: () => { view.go({ stage: 'history' }) } },
            { words: 'Find in the model', key: keys.word('find'), run: () => { view.over = 'find' } },
            { words: 'Replace a unit or a part of names in many things', run: () => { view.over = 'replace' } },
            { words: 'Show the health list and the time settings', run: () => { view.select(); view.card = true } },
            model.steps.undo && { words: `Undo: ${model.steps.undo}`, key: 'Ctrl Z', run: () => { void model.step('undo') } },
            model.steps.redo && { words: `Redo: ${model.steps.redo}`, key: 'Ctrl Shift Z', run: () => { void model.step('redo') } },
            { words: view.playing ? 'Pause' : 'Play', key: keys.word('play'), run: () => { view.playing = !view.playing } },
            { words: view.strengths ? 'Draw all links alike' : 'Draw links as strongly as they act', run: () => { view.strengths = !view.strengths } },
            { words: view.minimap ? 'Hide the small map' : 'Show the small map', run: () => { view.minimap = !view.minimap } },
            { words: view.outline ? 'Hide the outline' : 'Show the outline', run: () => { view.outline = !view.outline } },
            { words: view.card ? 'Hide the card' : 'Show the card', run: () => { view.card = !view.card } },
            { words: view.tracks ? 'Fold the tracks' : 'Show the tracks', run: () => { view.tracks = !view.tracks } },
            { words: view.theme === 'dark' ? 'Light theme' : 'Dark theme', run: view.changeTheme },
            { words: 'Export as a model file', run: () => { void exports.exportStudy(model.study, 'native') } },
            { words: 'Export as XMILE', run: () => { void exports.exportStudy(model.study, 'xmile') } },
            ...catalogue.content.functions.map((f) => ({ words: `Function ${f.signature}: ${f.sentence}`, also: f.synonyms.join(' '), run: () => { void navigator.clipboard.writeText(`${f.name}()`).then(() => { notices.say(`${f.name}() is on the clipboard. In a formula its first letters bring it, too.`) }, () => undefined) } })),
            { words: 'List the keys', key: keys.word('keys'), run: () => { view.over = 'keys' } },
        ]
        return list.filter((c): c is Command => Boolean(c))
    })
}
