<script setup lang="ts">
import { Monitor, Plus, Smartphone } from '@lucide/vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { shown, type ShownPage, type Wish } from '@/api/shown'
import ReaderArticle from '@/reader/ReaderArticle.vue'
import { useModel } from '@/stores/model'
import OneOf from '@/ui/OneOf.vue'
import LinksPart from './LinksPart.vue'
import PageBlocks from './PageBlocks.vue'
import PageInputs from './PageInputs.vue'
import PageSteps from './PageSteps.vue'
import TellTabs from './TellTabs.vue'
import { useShowcases } from './useShowcases'

/** Where a page for readers is written: its parts at the left, the page itself beside them, as readers see it. */
const pages = useShowcases()
const model = useModel()
const told = shallowRef<ShownPage | null>(null)
const trouble = ref('')
const size = ref<'desk' | 'phone'>('desk')
const SIZES = [
    { value: 'desk', words: 'As on a desk' },
    { value: 'phone', words: 'As on a phone' },
] as const
const part = ref<'words' | 'inputs' | 'steps' | 'blocks' | 'links'>('words')
const PARTS = [
    { value: 'words', words: 'Title' },
    { value: 'inputs', words: 'Inputs' },
    { value: 'steps', words: 'Steps' },
    { value: 'blocks', words: 'Blocks' },
    { value: 'links', words: 'Links' },
] as const
const page = computed(() => pages.page)

async function load() {
    if (!page.value) {
        told.value = null
        return
    }
    try {
        told.value = (await shown.preview(model.id, page.value.id, { step: '', inputs: {} })).page
        trouble.value = ''
    } catch (error) {
        trouble.value = (error as Error).message
    }
}
// What was written is on the page once it is on disk.
watch([() => page.value?.id, () => model.revision], load, { immediate: true })
/** Blocks are dragged where they stand. */
const arranging = {
    move: (id: string, before: string | null) => pages.putBefore(id, before),
    widen: (id: string, width: number) => pages.block(id, { width }),
}
const ask = async (wish: Wish) => (await shown.preview(model.id, page.value?.id ?? '', wish)).shown
</script>

<template>
    <div class="leaf">
        <TellTabs />
        <div v-if="!page" class="first">
            <h2>A page for readers</h2>
            <p>
                Words, a few inputs, and results that follow them: for people who will never see an equation. They open it by a link,
                without an account.
            </p>
            <Button v-if="model.mayEdit" class="button strong" @click="pages.make"
                ><Plus :size="16" :stroke-width="1.8" />Make a page</Button
            >
            <p v-else class="soft">Nobody has made one for this study yet.</p>
        </div>
        <div v-else class="both">
            <aside class="parts" aria-label="Parts of the page">
                <p v-if="pages.all.length > 1" class="which">
                    <Select
                        :model-value="page.id"
                        :options="pages.all"
                        option-label="title"
                        option-value="id"
                        aria-label="Which page"
                        @update:model-value="pages.choose($event)"
                    />
                </p>
                <OneOf v-model="part" :choices="PARTS" label="Part of the page" />
                <template v-if="part === 'words'">
                    <label class="label" for="page-title">Title</label>
                    <Textarea
                        id="page-title"
                        class="field"
                        :model-value="page.title"
                        rows="2"
                        auto-resize
                        maxlength="200"
                        @change="pages.put({ title: ($event.target as HTMLTextAreaElement).value })"
                    />
                    <label class="label" for="page-lead">What stands under it</label>
                    <Textarea
                        id="page-lead"
                        class="field"
                        :model-value="page.lead ?? ''"
                        rows="3"
                        auto-resize
                        maxlength="4000"
                        placeholder="Why should they read on?"
                        @change="pages.put({ lead: ($event.target as HTMLTextAreaElement).value })"
                    />
                    <label v-if="(page.steps ?? []).length > 1" class="tick"
                        ><Checkbox :model-value="page.turned ?? false" binary @update:model-value="pages.put({ turned: $event })" /> Its
                        steps are turned like pages</label
                    >
                    <p class="acts">
                        <Button class="act" @click="pages.make">Make another page</Button>
                        <Button class="act" @click="pages.remove">Remove this page</Button>
                    </p>
                </template>
                <PageInputs v-else-if="part === 'inputs'" />
                <PageSteps v-else-if="part === 'steps'" />
                <PageBlocks v-else-if="part === 'blocks'" />
                <LinksPart v-else :showcase="page.id" />
            </aside>
            <div class="preview">
                <div class="sizes">
                    <OneOf v-model="size" :choices="SIZES" label="How it is seen" />
                    <Monitor v-if="size === 'desk'" :size="16" :stroke-width="1.5" /><Smartphone v-else :size="16" :stroke-width="1.5" />
                </div>
                <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
                <div v-if="told" class="paper" :class="size">
                    <ReaderArticle
                        :key="told.id"
                        :page="told"
                        :ask="ask"
                        :arranging="model.mayEdit && size === 'desk' ? arranging : undefined"
                    />
                </div>
            </div>
        </div>
    </div>
</template>

<style scoped>
.leaf {
    background: var(--paper);
}
.first {
    display: grid;
    justify-items: start;
    align-content: start;
    gap: 14px;
    max-width: 620px;
    margin: 0 auto;
    padding: 64px 32px;
}
.leaf h2 {
    font-size: 24px;
}
.both {
    display: grid;
    grid-template-columns: 372px minmax(0, 1fr);
    min-height: 0;
}
.parts {
    display: grid;
    align-content: start;
    gap: 10px;
    overflow: auto;
    padding: 16px 18px 40px;
    border-right: 1px solid var(--hairline);
    background: var(--card);
}
.parts :deep(.field) {
    width: 100%;
    padding: 6px 9px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
    resize: none;
}
.parts :deep(.act) {
    min-height: 24px;
    color: var(--ink-soft);
    text-decoration: underline;
    text-underline-offset: 3px;
    font-size: 13px;
}
.parts :deep(.acts) {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
}
.parts :deep(.card) {
    display: grid;
    gap: 8px;
    padding: 12px;
    border: 1px solid var(--hairline);
    border-radius: 10px;
}
.parts :deep(.pair) {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 8px;
}
.parts > :deep(*),
.parts :deep(.card > *) {
    min-width: 0;
}
.parts :deep(label) {
    font-size: 13px;
    color: var(--ink-soft);
}
.parts :deep(.pair > label),
.parts :deep(.card > label) {
    display: grid;
    gap: 3px;
    align-content: start;
}
.preview {
    overflow: auto;
    min-width: 0;
    background: var(--paper);
}
.sizes {
    display: flex;
    align-items: center;
    justify-content: end;
    gap: 8px;
    padding: 10px 18px 0;
}
.trouble {
    padding: 20px 32px;
    color: var(--brick);
}
.paper.phone {
    width: 390px;
    margin: 12px auto 40px;
    border: 1px solid var(--line);
    border-radius: 22px;
    overflow: hidden;
}
.paper.phone :deep(.article) {
    padding: 16px 18px 20px;
}
@media (width < 1000px) {
    .both {
        grid-template-columns: minmax(0, 1fr);
        overflow: auto;
    }
}
</style>
