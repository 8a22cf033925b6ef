<script setup lang="ts">
import { PanelLeftOpen } from '@lucide/vue'
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { api, ConnectionError, ProblemError } from '@/api/client'
import DimensionCard from '@/card/DimensionCard.vue'
import LinkCard from '@/card/LinkCard.vue'
import SelectionCard from '@/card/SelectionCard.vue'
import StudyOverview from '@/card/StudyOverview.vue'
import MadeCard from '@/card/MadeCard.vue'
import ThingCard from '@/card/ThingCard.vue'
import FindDialog from '@/find/FindDialog.vue'
import { placeOf, stageOf } from '@/places'
import { useCourses } from '@/stores/courses'
import { useCatalogue } from '@/stores/catalogue'
import { useEffects } from '@/stores/effects'
import { useKeys } from '@/stores/keys'
import { useMends } from '@/stores/mends'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useSince } from '@/stores/since'
import { useStepCheck } from '@/stores/stepCheck'
import { useView } from '@/stores/view'
import TracksPanel from '@/tracks/TracksPanel.vue'
import ClashDialog from './ClashDialog.vue'
import CommandsDialog from './CommandsDialog.vue'
import HeadBar from './HeadBar.vue'
import KeysDialog from './KeysDialog.vue'
import PlacesRail from './PlacesRail.vue'
import { useNews } from './useNews'
import UnopenedStudy from './UnopenedStudy.vue'

/** The window of one open study: the frame of all places. What it shows is in its stores; where it has the address, that follows. */
const { study } = defineProps<{ study: string }>()
const emit = defineEmits<{ opened: []; gone: [] }>()
const model = useModel()
const mends = useMends()
const runs = useRuns()
const view = useView()
const courses = useCourses()
const notices = useNotices()
const keys = useKeys()
const since = useSince()
useEffects()
useStepCheck()
const root = ref<HTMLElement>()
const place = computed(() => placeOf(view.place))
const stage = computed(() => stageOf(place.value, view.stage))
const carded = computed(() => view.card && !stage.value.alone && !stage.value.wide)
const selectedMade = computed(() => {
    const thing = model.model.elements[view.selected ?? '']
    return thing?.made ? thing : undefined
})
const pickedDimension = computed(() => model.model.dimensions.find((d) => d.id === view.dimension && !d.shared))
/** Why a study that is there cannot be shown. */
const unopened = shallowRef<ProblemError | null>(null)

async function open() {
    unopened.value = null
    try {
        await model.open((await api.study(study)).model)
    } catch (error) {
        if (error instanceof ProblemError && error.code === 'model.unopened') {
            unopened.value = error
            return
        }
        if (error instanceof ProblemError && error.status === 401) {
            // Whoever is not signed in is on the way to where one does.
            return
        }
        notices.trouble((error as Error).message)
        if (!(error instanceof ConnectionError)) {
            emit('gone')
        }
        return
    }
    const { start, end } = model.model.time
    view.playhead = start + 0.5 * (end - start)
    runs.recall()
    emit('opened')
    void since.visit()
    await Promise.all([runs.refresh(), courses.open()])
}

watch(
    () => view.selected ?? '',
    (thing) => {
        model.lookAt(thing)
    },
)

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
watch(
    () => mends.added,
    (id) => {
        if (id) {
            mends.added = ''
            view.goTo(id)
            view.saying = id
        }
    },
)

function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    if (target !== document.body && !root.value?.contains(target) && !target.closest('[role="dialog"]')) {
        return
    }
    const awaited =
        !event.defaultPrevented &&
        (mends.waiting || (target === document.body && (view.saying || view.naming || view.adding) && event.key !== 'Escape'))
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
    // Where it cannot be had, the study cannot either, and says so.
    useCatalogue()
        .load()
        .catch(() => null)
    void open()
})
useEventListener(window, 'keydown', key)
useNews(() => {
    // While a dial is held, nothing may stand in the way of its runs.
    if (!runs.held) {
        void model.listen()
    }
}, [() => model.revision, () => model.offline])
onBeforeUnmount(() => {
    model.close()
})
</script>

<template>
    <div ref="root" class="window" :class="{ 'no-outline': !view.outline || !place.left || stage.alone, 'no-card': !carded }">
        <PlacesRail :study="study" @help="view.over = 'keys'" />
        <HeadBar />
        <component :is="place.left.shows" v-if="place.left && view.outline && !stage.alone" class="outline" />
        <main class="middle">
            <UnopenedStudy v-if="unopened" :study="study" :problem="unopened" @mended="open" />
            <component :is="stage.shows" v-else-if="model.loaded" />
            <Button
                v-if="place.left && !view.outline && !stage.alone"
                class="icon-button unfold"
                :aria-label="`Show ${place.left.words}`"
                :title="`Show ${place.left.words}`"
                @click="view.outline = true"
            >
                <PanelLeftOpen :size="17" :stroke-width="1.5" />
            </Button>
        </main>
        <aside v-if="carded" class="right" aria-label="Card">
            <component :is="place.right" v-if="place.right" />
            <DimensionCard v-else-if="pickedDimension" :key="pickedDimension.id" :dimension="pickedDimension" />
            <MadeCard v-else-if="selectedMade" :thing="selectedMade" />
            <ThingCard v-else-if="view.selected && model.model.elements[view.selected]" :thing="model.model.elements[view.selected]!" />
            <SelectionCard v-else-if="view.selection.length > 1" />
            <LinkCard v-else-if="view.link" />
            <StudyOverview v-else-if="model.loaded" />
        </aside>
        <component :is="place.foot ?? TracksPanel" v-if="!stage.footless" class="foot" />
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
