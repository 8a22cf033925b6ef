import { defineStore } from 'pinia'
import { computed, ref, watch, watchEffect } from 'vue'
import type { Kind } from '@/api/types'
import { useModel } from './model'

export type Theme = 'light' | 'dark'

/** What the stage shows. */
export type Stage = 'sheet' | 'atlas' | 'history' | TryStage

/** Those of the place where things are tried. */
export const TRY = ['plot', 'scenarios', 'trail', 'values', 'logbook', 'findings'] as const
export type TryStage = typeof TRY[number]

interface Spot { stage: Stage, sheet: string, selection: string[] }

const MOST_SPOTS = 100

/** What is looked at, and how: nothing of it is part of the model. */
export const useView = defineStore('view', () => {
    const model = useModel()
    /** Ids of things and of echoes on the sheet. */
    const selection = ref<string[]>([])
    /** A causal link that was picked, as `from>to`. */
    const link = ref('')
    const stage = ref<Stage>('sheet')
    const sheetWanted = ref('')
    const sheet = computed(() => model.model.sheets.some((s) => s.id === sheetWanted.value) ? sheetWanted.value : model.firstSheet)
    /** Where things are tried, what was looked at last. */
    const tried = ref<TryStage>('plot')
    const trying = computed(() => (TRY as readonly string[]).includes(stage.value))
    watch(stage, (now) => {
        if (trying.value) {
            tried.value = now as TryStage
        }
    })
    /** The plot on the stage, by id; a track’s too. */
    const plot = ref('')
    /** A finding that is looked at as it was kept, by id. */
    const asKept = ref('')
    /** What the trail is of. */
    const trail = ref('')
    /** Two runs, by key, whose differences in settings are told. */
    const compared = ref<[string, string]>(['baseline', 'shown'])
    /** Values that are looked at side by side. */
    const pinned = ref<string[]>([])
    /** The part of time that the tracks show; null for all. */
    const span = ref<[number, number] | null>(null)
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
    function takeAhead(): { text: string, ended: boolean } {
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
    const strengths = ref(localStorage.getItem('merry-orbit:strengths') === 'yes')
    const minimap = ref(localStorage.getItem('merry-orbit:minimap') === 'yes')
    /** What lies over the page: finding, commands, keys. */
    const over = ref<'' | 'find' | 'replace' | 'commands' | 'keys'>('')
    /** What finding begins with, when something asks for it. */
    const sought = ref<{ text: string, field: '' | 'formula' }>({ text: '', field: '' })
    // Where room is short, the columns begin closed.
    const roomy = window.innerWidth >= 1100
    const outline = ref(roomy)
    const card = ref(roomy)
    const tracks = ref(true)
    /** How high the tracks are, in pixels; more where the window is high. */
    const heightOfTracks = ref(Number(localStorage.getItem('merry-orbit:tracks-height')) || Math.round(Math.min(420, Math.max(150, window.innerHeight * 0.21 + Math.max(0, window.innerHeight - 800) * 0.5))))
    const tracksHeight = computed({
        get: () => heightOfTracks.value,
        set: (height) => {
            heightOfTracks.value = Math.round(Math.min(window.innerHeight * 0.6, Math.max(84, height)))
            localStorage.setItem('merry-orbit:tracks-height', String(heightOfTracks.value))
        },
    })
    const stored = localStorage.getItem('merry-orbit:theme')
    const theme = ref<Theme>(stored === 'light' || stored === 'dark' ? stored : window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')

    watchEffect(() => { document.documentElement.dataset.theme = theme.value })
    watchEffect(() => { localStorage.setItem('merry-orbit:strengths', strengths.value ? 'yes' : 'no') })
    watchEffect(() => { localStorage.setItem('merry-orbit:minimap', minimap.value ? 'yes' : 'no') })

    function changeTheme() {
        theme.value = theme.value === 'dark' ? 'light' : 'dark'
        localStorage.setItem('merry-orbit:theme', theme.value)
    }

    /** What is selected on the sheet if it is one: a thing or an echo. */
    const node = computed(() => selection.value.length === 1 ? selection.value[0] : undefined)
    /** The thing that is selected, itself or by an echo. */
    const selected = computed(() => node.value === undefined ? undefined : model.model.echoes[node.value]?.element ?? node.value)
    const selectedThings = computed(() => [...new Set(selection.value.map((id) => model.model.echoes[id]?.element ?? id))])

    function select(...ids: string[]) {
        selection.value = ids
        link.value = ''
        if (!ids.includes(saying.value)) {
            saying.value = ''
        }
    }

    // Where one has been, as in a book with a thumb between the pages.
    const back = ref<Spot[]>([])
    const ahead = ref<Spot[]>([])
    const here = (): Spot => ({ stage: stage.value, sheet: sheet.value, selection: [...selection.value] })

    function arrive(spot: Spot) {
        stage.value = spot.stage
        sheetWanted.value = spot.sheet
        select(...spot.selection)
        centring.value++
    }

    /** Goes somewhere, to come back from later. */
    function go(to: Partial<Spot>) {
        back.value = [...back.value.slice(-MOST_SPOTS), here()]
        ahead.value = []
        arrive({ ...here(), selection: [], ...to })
    }

    function goBack() {
        const spot = back.value.at(-1)
        if (spot) {
            back.value = back.value.slice(0, -1)
            ahead.value = [...ahead.value, here()]
            arrive(spot)
        }
    }

    function goAhead() {
        const spot = ahead.value.at(-1)
        if (spot) {
            ahead.value = ahead.value.slice(0, -1)
            back.value = [...back.value, here()]
            arrive(spot)
        }
    }

    /** To the place where a thing is defined, or to an echo. */
    function goTo(id: string) {
        const echo = model.model.echoes[id]
        const target = echo ? echo.sheet : model.sheetOf(id)
        if (stage.value === 'sheet' && target === sheet.value) {
            select(id)
            centring.value++
        } else {
            go({ stage: 'sheet', sheet: target, selection: [id] })
        }
    }

    function reset() {
        select()
        stage.value = 'sheet'
        tried.value = 'plot'
        plot.value = ''
        asKept.value = ''
        trail.value = ''
        pinned.value = []
        span.value = null
        sheetWanted.value = ''
        naming.value = ''
        saying.value = ''
        playing.value = false
        over.value = ''
        back.value = []
        ahead.value = []
    }

    return {
        selection, node, selected, selectedThings, link, stage, sheet, select, go, goTo, goBack, goAhead, back, ahead, reset, centring, asked, strengths, minimap, over, sought, tried, trying, plot, asKept, trail, pinned, compared, span,
        playhead, playing, speed, naming, typedAhead, typeAhead, takeAhead, adding, wanted, saying, outline, card, tracks, tracksHeight, theme, changeTheme,
    }
})
