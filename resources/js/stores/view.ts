import { studyStore } from './studyStore'
import { useStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Kind } from '@/api/types'
import { useModel } from './model'

/** A place of the window, what is on its stage, and what is picked there. */
export interface Spot {
    place: string
    stage: string
    sheet: string
    selection: string[]
}

/** All that the address of a window tells of it. Runs are told by their keys; what is tried and belongs to nobody yet is not told. */
export interface Looked extends Spot {
    plot: string
    trail: string
    run: string
    against: string
    look: Record<string, string>
    moment: number
}

/** What is looked at, and how: nothing of it is part of the model. */
export const useView = studyStore('view', () => {
    const model = useModel()
    /** Ids of things and of echoes on the sheet. */
    const selection = ref<string[]>([])
    /** A dimension that was picked, by id. */
    const dimension = ref('')
    /** A causal link that was picked, as `from>to`. */
    const link = ref('')
    const place = ref('model')
    const stage = ref('sheet')
    const sheetWanted = ref('')
    const sheet = computed(() => (model.model.sheets.some((s) => s.id === sheetWanted.value) ? sheetWanted.value : model.firstSheet))
    /** What was on the stage last, by place. */
    const left = ref<Record<string, string>>({})
    watch(
        [place, stage],
        ([where, what]) => {
            left.value = { ...left.value, [where]: what }
        },
        { immediate: true },
    )
    /** The plot on the stage, by id; a track’s too. */
    const plot = ref('')
    /** A finding that is looked at as it was kept, by id. */
    const asKept = ref('')
    /** What the trail is of. */
    const trail = ref('')
    /** Keys of the run that is asked about, and of the one it is held against, if any. */
    const run = ref('shown')
    const against = ref('')
    /** Two runs, by key, whose differences in settings are told. */
    const compared = ref<[string, string]>(['baseline', 'shown'])
    /** Values that are looked at side by side. */
    const pinned = ref<string[]>([])
    /** The part of time that the tracks show; null for all. */
    const span = ref<[number, number] | null>(null)
    /** Where the window looks along dimensions, by dimension: an element or a gathering; each element where nothing is said. */
    const look = ref<Record<string, string>>({})
    const playhead = ref(0)
    const playing = ref(false)
    const speed = ref(1)
    /** The thing whose name is being typed on the sheet. */
    const naming = ref('')
    /** What is typed while a field is about to come, with line ends for Enter: hands are quicker than the page. */
    const typedAhead = ref('')
    function typeAhead(event: KeyboardEvent) {
        if (event.key === 'Backspace') {
            typedAhead.value = typedAhead.value.slice(0, -1)
        } else if (!event.ctrlKey && !event.metaKey && (event.key.length === 1 || (event.key === 'Enter' && typedAhead.value))) {
            typedAhead.value += event.key === 'Enter' ? '\n' : event.key
        }
        event.preventDefault()
    }
    /** The part for one field, and whether Enter came behind it; the rest waits for the field after it. */
    function takeAhead(): { text: string; ended: boolean } {
        const [text = '', ...rest] = typedAhead.value.split('\n')
        typedAhead.value = rest.join('\n')
        return { text, ended: rest.length > 0 }
    }
    const adding = ref(false)
    /** A kind of thing that was asked for outside the sheet. */
    const wanted = ref<Kind | ''>('')
    /** The thing whose formula is open on the sheet. */
    const saying = ref('')
    /** Asks the canvas to bring something into its middle; counts up. */
    const centring = ref(0)
    /** Something the canvas is asked to do by name, such as `fit`; the canvas takes it away. */
    const asked = ref('')
    /** Whether links are drawn as strongly as they act. */
    const strengths = useStorage('merry-orbit:strengths', false)
    const minimap = useStorage('merry-orbit:minimap', false)
    /** What lies over the page: finding, commands, keys. */
    const over = ref<'' | 'find' | 'replace' | 'commands' | 'keys'>('')
    /** The list of feedback loops: whether it is open, and which of them is told. */
    const loops = ref({ open: false, told: '' })
    /** What finding begins with, when something asks for it. */
    const sought = ref<{ text: string; field: '' | 'formula' }>({ text: '', field: '' })
    // Where room is short, the columns begin closed.
    const roomy = window.innerWidth >= 1100
    const outline = ref(roomy)
    const card = ref(roomy)
    const tracks = ref(true)
    /** How high the tracks are, in pixels; more where the window is high. */
    const heightOfTracks = useStorage(
        'merry-orbit:tracks-height',
        Math.round(Math.min(420, Math.max(150, window.innerHeight * 0.21 + Math.max(0, window.innerHeight - 800) * 0.5))),
    )
    const tracksHeight = computed({
        get: () => heightOfTracks.value,
        set: (height) => {
            heightOfTracks.value = Math.round(Math.min(window.innerHeight * 0.6, Math.max(84, height)))
        },
    })

    /** What is selected on the sheet if it is one: a thing or an echo. */
    const node = computed(() => (selection.value.length === 1 ? selection.value[0] : undefined))
    /** The thing that is selected, itself or by an echo. */
    const selected = computed(() => (node.value === undefined ? undefined : (model.model.echoes[node.value]?.element ?? node.value)))
    const selectedThings = computed(() => [...new Set(selection.value.map((id) => model.model.echoes[id]?.element ?? id))])

    function select(...ids: string[]) {
        selection.value = ids
        link.value = ''
        dimension.value = ''
        if (!ids.includes(saying.value)) {
            saying.value = ''
        }
    }

    /** How one goes back to where one was, and forward again, where that is possible: steps are kept by the address. */
    const way = shallowRef<{ back?: () => void; ahead?: () => void }>({})

    function arrive(spot: Spot) {
        place.value = spot.place
        stage.value = spot.stage
        sheetWanted.value = spot.sheet
        select(...spot.selection)
        centring.value++
    }

    /** Goes somewhere, to come back from later. */
    function go(to: Partial<Spot>) {
        arrive({ place: place.value, stage: stage.value, sheet: sheet.value, selection: [], ...to })
    }

    /** To the place where a thing is defined, or to an echo. */
    function goTo(id: string) {
        if (model.model.elements[id]?.kind === 'factor') {
            go({ place: 'map', stage: 'map', selection: [id] })
            return
        }
        if (model.model.elements[id]?.made) {
            go({ place: 'ledgers', stage: 'ledgers', selection: [id] })
            return
        }
        go({ place: 'model', stage: 'sheet', sheet: model.model.echoes[id]?.sheet ?? model.sheetOf(id), selection: [id] })
    }

    return {
        selection,
        node,
        selected,
        selectedThings,
        link,
        dimension,
        place,
        left,
        stage,
        sheet,
        select,
        way,
        arrive,
        go,
        goTo,
        centring,
        asked,
        strengths,
        minimap,
        over,
        loops,
        sought,
        plot,
        asKept,
        trail,
        run,
        against,
        pinned,
        look,
        compared,
        span,
        playhead,
        playing,
        speed,
        naming,
        typedAhead,
        typeAhead,
        takeAhead,
        adding,
        wanted,
        saying,
        outline,
        card,
        tracks,
        tracksHeight,
    }
})
