<script setup lang="ts">
import { PanelLeftOpen } from '@lucide/vue'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, ConnectionError } from '@/api/client'
import SheetCanvas from '@/canvas/SheetCanvas.vue'
import StudyOverview from '@/card/StudyOverview.vue'
import ThingCard from '@/card/ThingCard.vue'
import OutlinePanel from '@/outline/OutlinePanel.vue'
import HeadBar from '@/shell/HeadBar.vue'
import PlacesRail from '@/shell/PlacesRail.vue'
import { useCatalogue } from '@/stores/catalogue'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import TracksPanel from '@/tracks/TracksPanel.vue'
import ClashDialog from './ClashDialog.vue'
import KeysDialog from './KeysDialog.vue'

const { study } = defineProps<{ study: string }>()
const router = useRouter()
const route = useRoute()
const model = useModel()
const runs = useRuns()
const view = useView()
const notices = useNotices()
const outline = ref<InstanceType<typeof OutlinePanel>>()
const help = ref(false)
let listening = 0

async function open() {
    runs.clear()
    view.select()
    view.naming = ''
    view.playing = false
    try {
        await model.open((await api.study(study)).model)
    } catch (error) {
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
        view.select(thing)
    }
    await runs.refresh()
}

watch(() => model.model.name, (name) => { document.title = name ? `${name} – Merry Orbit` : 'Merry Orbit' })
/** Whatever changes what a run gives makes a new one. */
watch(() => [model.model.elements, model.model.time, model.model.endWhen], () => {
    if (model.loaded) {
        void runs.refresh()
    }
})
watch(() => model.model.elements, (elements) => {
    if (view.selection.some((id) => !elements[id])) {
        view.select(...view.selection.filter((id) => elements[id]))
    }
})

function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    if (target.closest('input, textarea, [contenteditable], [role="dialog"]')) {
        return
    }
    const control = event.ctrlKey || event.metaKey
    if (control && event.key.toLowerCase() === 'z') {
        void model.step(event.shiftKey ? 'redo' : 'undo')
    } else if (control && event.key.toLowerCase() === 'y') {
        void model.step('redo')
    } else if (event.key === '?' && !control) {
        help.value = true
    } else if (event.key === '/' && !control) {
        view.outline = true
        window.setTimeout(() => { outline.value?.find() })
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
        if (!Object.keys(runs.dials).length) {
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
    <div class="window" :class="{ 'no-outline': !view.outline, 'no-card': !view.card }">
        <PlacesRail :attention="model.hindrances.length" @help="help = true" />
        <HeadBar />
        <OutlinePanel v-if="view.outline" ref="outline" />
        <main class="middle">
            <SheetCanvas v-if="model.loaded" :key="model.id" />
            <button v-if="!view.outline" type="button" class="icon-button unfold" aria-label="Show the outline" title="Show the outline" @click="view.outline = true"><PanelLeftOpen :size="17" :stroke-width="1.5" /></button>
        </main>
        <aside v-if="view.card" class="right" aria-label="Card">
            <ThingCard v-if="view.selected && model.model.elements[view.selected]" :thing="model.model.elements[view.selected]!" />
            <p v-else-if="view.selection.length > 1" class="several soft">{{ view.selection.length }} things are selected. Drag one to move them all; Delete takes them out.</p>
            <StudyOverview v-else-if="model.loaded" />
        </aside>
        <TracksPanel class="foot" />
        <KeysDialog v-model="help" />
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
.several {
    padding: 18px;
}
@media (width < 1100px) {
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
