<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { computed } from 'vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { newId } from '@/ui/ids'
import { useShowcases, type PageStep } from './useShowcases'

/** The steps of a page, each with its setting of the model. */
const pages = useShowcases()
const model = useModel()
const runs = useRuns()
const scenarios = computed(() => [
    { id: '', name: 'the model as it stands' },
    ...Object.values(model.model.scenarios).map((s) => ({ id: s.id, name: s.name })),
])
const dialled = computed(() => Object.keys(runs.setting.parameters ?? {}).length)
const settingOf = (s: PageStep) =>
    Object.entries(s.parameters ?? {})
        .map(([id, value]) => `${pages.nameOf(id)} = ${value}`)
        .join(', ')
const add = () => pages.addStep({ id: newId(), title: `Step ${pages.steps.length + 1}` })
</script>

<template>
    <p v-if="!pages.steps.length" class="soft">
        The page is one step so far. Several are turned like pages, and each may set the model otherwise.
    </p>
    <section v-for="(s, i) in pages.steps" :key="s.id" class="card" :aria-label="`Step ${i + 1}: ${s.title}`">
        <label
            >{{ i + 1 }}. Title
            <InputText
                class="field"
                :model-value="s.title"
                maxlength="200"
                @change="pages.step(s.id, { title: ($event.target as HTMLInputElement).value })"
        /></label>
        <label
            >Words
            <Textarea
                class="field"
                :model-value="s.words ?? ''"
                rows="3"
                auto-resize
                maxlength="4000"
                @change="pages.step(s.id, { words: ($event.target as HTMLTextAreaElement).value })"
        /></label>
        <label v-if="scenarios.length > 1"
            >It begins with
            <Select
                :model-value="s.scenario ?? ''"
                :options="scenarios"
                option-label="name"
                option-value="id"
                :aria-label="`What step ${i + 1} begins with`"
                placeholder="the model as it stands"
                @update:model-value="pages.step(s.id, { scenario: $event })"
        /></label>
        <p v-if="settingOf(s)" class="soft">and {{ settingOf(s) }}</p>
        <p class="acts">
            <Button
                v-if="dialled"
                class="act"
                title="What was turned in the place Try"
                @click="pages.step(s.id, { parameters: { ...runs.setting.parameters } })"
                >Set as the dials stand now</Button
            >
            <Button v-if="settingOf(s)" class="act" @click="pages.step(s.id, { parameters: {} })">Set nothing</Button>
            <Button v-if="i" class="act" @click="pages.moveStep(s.id, -1)">Earlier</Button>
            <Button class="act" @click="pages.dropStep(s.id)">Take it away</Button>
        </p>
    </section>
    <Button class="button" @click="add"><Plus :size="15" :stroke-width="1.8" />Add a step</Button>
</template>
