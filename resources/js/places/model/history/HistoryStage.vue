<script setup lang="ts">
import { Bookmark, BookmarkPlus, RotateCcw } from '@lucide/vue'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { Change, HistoryPage, Model } from '@/api/types'
import SheetPicture, { type Mark } from '@/canvas/SheetPicture.vue'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import ChangeSaid from '@/ui/ChangeSaid.vue'
import SaidText from '@/ui/SaidText.vue'
import OneOf from '@/ui/OneOf.vue'

const model = useModel()
const view = useView()
const notices = useNotices()
const page = shallowRef<HistoryPage>({ entries: [], milestones: [], more: false })
/** The version that is looked at, and the one it is compared with: the present one, or another. */
const chosen = ref<number | null>(null)
const against = ref<number | null>(null)
const old = shallowRef<Model | null>(null)
const other = shallowRef<Model | null>(null)
const changes = shallowRef<Change[]>([])
const sheet = ref('')
const naming = ref<number | null>(null)
const draft = ref('')
const loading = ref(false)

const milestone = (revision: number) => page.value.milestones.find((m) => m.revision === revision)?.name
const called = (revision: number | null) =>
    revision === null || revision === model.revision ? 'now' : (milestone(revision) ?? `revision ${revision}`)
const newer = computed<Model>(() => other.value ?? model.model)

async function load() {
    try {
        page.value = await api.history(model.id)
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}
async function more() {
    const last = page.value.entries.at(-1)
    if (last) {
        const older = await api.history(model.id, last.revision)
        page.value = { ...older, entries: [...page.value.entries, ...older.entries] }
    }
}
async function look() {
    if (chosen.value === null) {
        return
    }
    loading.value = true
    try {
        const [from, to] =
            against.value !== null && against.value < chosen.value ? [against.value, chosen.value] : [chosen.value, against.value]
        const [a, b, list] = await Promise.all([
            api.version(model.id, from),
            to === null ? Promise.resolve(null) : api.version(model.id, to),
            api.comparison(model.id, from, to ?? undefined),
        ])
        old.value = a
        other.value = b
        changes.value = list
        if (!a.sheets.some((s) => s.id === sheet.value)) {
            sheet.value = a.sheets.some((s) => s.id === view.sheet) ? view.sheet : (a.sheets[0]?.id ?? '')
        }
    } catch (error) {
        notices.trouble((error as Error).message)
    }
    loading.value = false
}
watch([chosen, against], () => {
    void look()
})
watch(
    () => model.revision,
    () => {
        void load().then(look)
    },
)
onMounted(() => {
    void load()
})

/** Marks on the older picture: what was changed or removed since; on the newer one what was added. */
const marksOld = computed(() =>
    Object.fromEntries(
        changes.value
            .filter((c) => c.element && (c.what === 'changed' || c.what === 'removed'))
            .map((c) => [c.element as string, c.what as Mark]),
    ),
)
const marksNew = computed(() =>
    Object.fromEntries(
        changes.value
            .filter((c) => c.element && (c.what === 'changed' || c.what === 'added'))
            .map((c) => [c.element as string, c.what as Mark]),
    ),
)
const told = computed(() => changes.value.filter((c) => c.what !== 'moved'))
const moved = computed(() => changes.value.length - told.value.length)
const first = computed(() => (against.value !== null && chosen.value !== null ? Math.min(against.value, chosen.value) : chosen.value))

function pick(revision: number, event: MouseEvent | KeyboardEvent) {
    if (event.shiftKey && chosen.value !== null && revision !== chosen.value) {
        against.value = revision
    } else {
        against.value = null
        chosen.value = revision
    }
}
async function restore(ids?: string[]) {
    if (first.value !== null && (await model.restore(first.value, ids))) {
        notices.say(ids ? 'Brought back.' : `The model is as it was at ${called(first.value)}.`, {
            words: 'Undo',
            run: () => {
                void model.step('undo')
            },
        })
    }
}
function name(revision: number) {
    naming.value = revision
    draft.value = milestone(revision) ?? ''
}
async function keepName() {
    const revision = naming.value
    naming.value = null
    if (revision === null) {
        return
    }
    try {
        const { milestones } = draft.value.trim()
            ? await api.nameMilestone(model.id, revision, draft.value)
            : await api.dropMilestone(model.id, revision)
        page.value = { ...page.value, milestones }
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}
const DAY = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
/** Revisions to choose from: after each edit, and the beginning. */
const rows = computed(() => [
    ...page.value.entries,
    ...(page.value.more ? [] : [{ revision: 0, kind: 'edit' as const, words: 'The beginning', by: '', at: '', undone: false }]),
])
/** Who did it is told where it was more than one. */
const several = computed(() => new Set(page.value.entries.map((e) => e.by)).size > 1)
</script>

<template>
    <div class="history">
        <aside class="timeline" aria-label="What was done">
            <h2>What was done</h2>
            <p class="soft small">Pick a version to look at it; Shift and a second one compares the two.</p>
            <ol>
                <li
                    v-for="row in rows"
                    :key="row.revision"
                    :class="{ undone: row.undone, chosen: row.revision === chosen || row.revision === against }"
                >
                    <p v-if="milestone(row.revision) && naming !== row.revision" class="milestone">
                        <Bookmark :size="13" :stroke-width="1.8" />{{ milestone(row.revision) }}
                    </p>
                    <InputText
                        v-if="naming === row.revision"
                        v-model="draft"
                        class="field"
                        autofocus
                        aria-label="Name of the milestone"
                        placeholder="Name this version"
                        maxlength="120"
                        @keydown.enter="keepName"
                        @keydown.escape.stop="naming = null"
                        @blur="keepName"
                    />
                    <div class="line">
                        <Button
                            class="pick"
                            :aria-pressed="row.revision === chosen || row.revision === against"
                            @click="pick(row.revision, $event)"
                            ><SaidText :text="row.words" /><small class="soft"
                                >{{ several && row.by ? `${row.by} · ` : '' }}{{ row.at ? DAY.format(new Date(row.at)) : ''
                                }}{{ row.undone ? ' · undone' : '' }}</small
                            ></Button
                        >
                        <Button
                            class="icon-button"
                            :aria-label="`Name the version after: ${row.words}`"
                            title="Name this version"
                            @click="name(row.revision)"
                            ><BookmarkPlus :size="15" :stroke-width="1.5"
                        /></Button>
                    </div>
                </li>
            </ol>
            <Button v-if="page.more" class="button" @click="more">Older</Button>
        </aside>
        <div v-if="old && chosen !== null" class="versions" :aria-busy="loading">
            <header>
                <h2>
                    {{ called(first) }} <span class="soft">compared with</span>
                    {{ against === null ? 'now' : called(Math.max(chosen, against)) }}
                </h2>
                <Button v-if="first !== model.revision" class="button" @click="restore()"
                    ><RotateCcw :size="15" :stroke-width="1.6" />Go back to {{ called(first) }}</Button
                >
            </header>
            <OneOf
                v-if="newer.sheets.length > 1 || old.sheets.length > 1"
                v-model="sheet"
                class="tabs"
                label="Which sheet"
                :choices="newer.sheets.map((s) => ({ value: s.id, words: s.name }))"
            />
            <div class="pictures">
                <figure>
                    <figcaption class="soft">{{ called(first) }}</figcaption>
                    <SheetPicture :model="old" :sheet="sheet" :marks="marksOld" />
                </figure>
                <figure>
                    <figcaption class="soft">{{ against === null ? 'now' : called(Math.max(chosen, against)) }}</figcaption>
                    <SheetPicture :model="newer" :sheet="sheet" :marks="marksNew" />
                </figure>
            </div>
            <ul class="changes" aria-label="Differences">
                <li v-for="c in told" :key="c.element ?? c.name">
                    <ChangeSaid :change="c" />
                    <Button v-if="c.element && c.what !== 'added' && against === null" class="button small" @click="restore([c.element])"
                        >Bring back</Button
                    >
                </li>
                <li v-if="!told.length" class="soft">{{ loading ? 'Comparing…' : 'The two versions say the same.' }}</li>
                <li v-if="moved" class="soft">{{ moved }} {{ moved === 1 ? 'thing has' : 'things have' }} moved.</li>
            </ul>
        </div>
        <p v-else class="soft hint">
            Every edit is kept. Pick a version on the left to see how the model was then, and what has changed since.
        </p>
    </div>
</template>

<style scoped src="./HistoryStage.css"></style>
