<script setup lang="ts">
import { PanelLeftOpen } from '@lucide/vue'
import { computed, onBeforeUnmount, onMounted, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ConnectionError, ProblemError } from '@/api/client'
import AtlasStage from '@/atlas/AtlasStage.vue'
import SheetCanvas from '@/canvas/SheetCanvas.vue'
import LinkCard from '@/card/LinkCard.vue'
import SelectionCard from '@/card/SelectionCard.vue'
import StudyOverview from '@/card/StudyOverview.vue'
import ThingCard from '@/card/ThingCard.vue'
import CommandsDialog from '@/find/CommandsDialog.vue'
import FindDialog from '@/find/FindDialog.vue'
import HistoryStage from '@/history/HistoryStage.vue'
import OutlinePanel from '@/outline/OutlinePanel.vue'
import HeadBar from '@/shell/HeadBar.vue'
import PlacesRail from '@/shell/PlacesRail.vue'
import { useCourses } from '@/stores/courses'
import { useCatalogue } from '@/stores/catalogue'
import { useEffects } from '@/stores/effects'
import { useKeys } from '@/stores/keys'
import { useMends } from '@/stores/mends'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useStepCheck } from '@/stores/stepCheck'
import { useView } from '@/stores/view'
import TracksPanel from '@/tracks/TracksPanel.vue'
import TryPanel from '@/try/TryPanel.vue'
import TryStage from '@/try/TryStage.vue'
import ClashDialog from './ClashDialog.vue'
import KeysDialog from './KeysDialog.vue'
import UnopenedStudy from './UnopenedStudy.vue'

const { study, place } = defineProps<{ study: string, place: string }>()
const router = useRouter()
const route = useRoute()
const model = useModel()
const mends = useMends()
const runs = useRuns()
const view = useView()
const courses = useCourses()
const notices = useNotices()
const keys = useKeys()
useEffects()
useStepCheck()
let listening = 0
/** The history takes the whole width: what stands in the columns is about the present. */
const alone = computed(() => view.stage === 'history')

/** Why a study that is there cannot be shown. */
const unopened = shallowRef<ProblemError | null>(null)

async function open() {
    unopened.value = null
    runs.clear()
    view.reset()
    try {
        await model.open((await api.study(study)).model)
    } catch (error) {
        if (error instanceof ProblemError && error.code === 'model.unopened') {
            unopened.value = error
            return
        }
        notices.trouble((error as Error).message)
        if (!(error instanceof ConnectionError)) {
            await router.push('/')
        }
        return
    }
    const { start, end } = model.model.time
    view.playhead = start + 0.5 * (end - start)
    const thing = route.query.thing
    if (typeof thing === 'string' && model.model.elements[thing]) {
        view.goTo(thing)
    }
    runs.recall()
    if (place === 'try') {
        view.go({ stage: view.tried })
    }
    await Promise.all([runs.refresh(), courses.open()])
}

// The address tells the place, and the place what is on the stage.
watch(() => place, (now) => {
    if (now === 'try' && !view.trying) {
        view.go({ stage: view.tried, selection: view.selection })
    } else if (now === 'model' && view.trying) {
        view.go({ stage: 'sheet', selection: view.selection })
    }
})
watch(() => view.trying, (trying) => {
    if (model.loaded && trying !== (place === 'try')) {
        void router.push({ params: { study, place: trying ? 'try' : 'model' } })
    }
})
watch(() => model.model.name, (name) => { document.title = name ? `${name} – Merry Orbit` : 'Merry Orbit' })
/** Whatever changes what a run gives makes a new one. */
watch([() => model.model.elements, () => model.model.time, () => model.model.endWhen], () => {
    if (model.loaded) {
        runs.follow(false)
    }
})
watch([() => model.model.elements, () => model.model.echoes] as const, ([elements]) => {
    const known = (id: string) => elements[id] !== undefined || model.model.echoes[id] !== undefined
    if (view.selection.some((id) => !known(id))) {
        view.select(...view.selection.filter(known))
    }
})

// What was added for a missing name is shown, and asks for its value.
watch(() => mends.added, (id) => {
    if (id) {
        mends.added = ''
        view.goTo(id)
        view.saying = id
    }
})

function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    const awaited = !event.defaultPrevented && (mends.waiting || (target === document.body && (view.saying || view.naming || view.adding) && event.key !== 'Escape'))
    if (awaited && !target.closest('input, textarea, [contenteditable]')) {
        // The field for the value is about to come: what is typed is meant for it.
        view.typeAhead(event)
        return
    }
    const typing = target.closest('input, textarea, [contenteditable]')
    if (typing && (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        view.over = 'commands'
        event.preventDefault()
        return
    }
    if (typing || target.closest('[role="dialog"]')) {
        return
    }
    const control = event.ctrlKey || event.metaKey
    if (control && event.key.toLowerCase() === 'z') {
        void model.step(event.shiftKey ? 'redo' : 'undo')
    } else if (control && event.key.toLowerCase() === 'y') {
        void model.step('redo')
    } else if (keys.actOf(event) === 'keys') {
        view.over = 'keys'
    } else if (keys.actOf(event) === 'find') {
        view.over = 'find'
    } else if (control && event.key.toLowerCase() === 'k') {
        view.over = 'commands'
    } else {
        return
    }
    event.preventDefault()
}

onMounted(() => {
    void useCatalogue().load()
    void open()
    window.addEventListener('keydown', key)
    listening = window.setInterval(() => {
        // While a dial is held, nothing may stand in the way of its runs.
        if (!runs.held) {
            void model.listen()
        }
    }, 1000)
})
onBeforeUnmount(() => {
    window.removeEventListener('keydown', key)
    window.clearInterval(listening)
    model.loaded = false
})
</script>

<template>
    <div class="window" :class="{ 'no-outline': !view.outline || alone, 'no-card': !view.card || alone }">
        <PlacesRail :study="study" :place="place" :attention="model.hindrances.length" @help="view.over = 'keys'" />
        <HeadBar />
        <TryPanel v-if="view.outline && view.trying" class="outline" />
        <OutlinePanel v-else-if="view.outline && !alone" />
        <main class="middle">
            <UnopenedStudy v-if="unopened" :study="study" :problem="unopened" @mended="open" />
            <template v-else-if="model.loaded">
                <SheetCanvas v-if="view.stage === 'sheet'" :key="model.id" />
                <AtlasStage v-else-if="view.stage === 'atlas'" />
                <TryStage v-else-if="view.trying" />
                <HistoryStage v-else />
            </template>
            <button v-if="!view.outline && !alone" type="button" class="icon-button unfold" :aria-label="view.trying ? 'Show dials and runs' : 'Show the outline'" :title="view.trying ? 'Show dials and runs' : 'Show the outline'" @click="view.outline = true"><PanelLeftOpen :size="17" :stroke-width="1.5" /></button>
        </main>
        <aside v-if="view.card && !alone" class="right" aria-label="Card">
            <ThingCard v-if="view.selected && model.model.elements[view.selected]" :thing="model.model.elements[view.selected]!" />
            <SelectionCard v-else-if="view.selection.length > 1" />
            <LinkCard v-else-if="view.link" />
            <StudyOverview v-else-if="model.loaded" />
        </aside>
        <TracksPanel class="foot" />
        <KeysDialog />
        <FindDialog />
        <CommandsDialog />
        <ClashDialog />
    </div>
</template>

<style scoped>
.window {
    display: grid;
    grid-template: var(--head) minmax(0, 1fr) auto / var(--rail) var(--left) minmax(0, 1fr) var(--right);
    grid-template-areas: 'rail head head head' 'rail left middle right' 'rail foot foot foot';
    height: 100vh;
    overflow: hidden;
}
.window.no-outline {
    grid-template-columns: var(--rail) 0 minmax(0, 1fr) var(--right);
}
.window.no-card {
    grid-template-columns: var(--rail) var(--left) minmax(0, 1fr) 0;
}
.window.no-outline.no-card {
    grid-template-columns: var(--rail) 0 minmax(0, 1fr) 0;
}
.window > :nth-child(1) {
    grid-area: rail;
}
.window > :nth-child(2) {
    grid-area: head;
}
.outline {
    grid-area: left;
}
.middle {
    grid-area: middle;
    position: relative;
    min-width: 0;
    min-height: 0;
}
.right {
    grid-area: right;
    contain: strict;
    overflow-y: auto;
    border-left: 1px solid var(--hairline);
    background: var(--card);
}
.foot {
    grid-area: foot;
    min-width: 0;
}
.unfold {
    position: absolute;
    left: 10px;
    top: 10px;
    background: var(--card);
    border: 1px solid var(--hairline);
}
@media (width < 1100px) {
    /* Beside the sheet, and narrower, so that it stays usable between them. */
    .window {
        --left: 196px;
        --right: 268px;
    }
}
@media (width < 900px) {
    /* Both columns lie over the sheet's edges as drawers. */
    .window,
    .window.no-outline,
    .window.no-card,
    .window.no-outline.no-card {
        grid-template-columns: var(--rail) 0 minmax(0, 1fr) 0;
    }
    .outline {
        width: var(--left);
        z-index: 20;
        box-shadow: var(--shadow);
    }
    .right {
        width: min(var(--right), 80vw);
        margin-left: calc(-1 * min(var(--right), 80vw));
        z-index: 20;
        box-shadow: var(--shadow);
    }
}
</style>
