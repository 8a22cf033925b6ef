<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { ClipboardPaste } from '@lucide/vue'
import { computed, ref } from 'vue'
import type { DimensionView, Thing } from '@/api/types'
import { elementsOf, useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { readSeries } from './seriesBlock'

/** A series over dimensions: which elements have a course of their own, and a table of courses to be pasted. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const look = useLook()
const open = ref(false)
const text = ref('')

const over = computed(() => (thing.along?.over ?? []).map((id) => look.byId.get(id)).filter((d): d is DimensionView => d !== undefined))
const record = computed(() => Object.values(model.model.courses ?? {}).find((c) => c.of === thing.id))
const size = computed(() => over.value.reduce((n, d) => n * elementsOf(d).length, 1))
const own = computed(() => record.value?.values.length ?? 0)
const names = computed(() => over.value.map((d) => d.name).join(' and '))
const block = computed(() => readSeries(text.value, over.value))
const found = computed(() => [...block.value.courses])
const total = computed(() => found.value.reduce((n, [, points]) => n + points.length, 0))

async function write(values: [string[], number[][]][]) {
    const id = record.value?.id ?? `c-${thing.id}`.slice(0, 40)
    return model.attempt({ kind: 'put', part: 'courses', id, fields: { of: thing.id, values } })
}
async function keep() {
    // What was given for other elements stays.
    const known = new Map<string, number[][]>((record.value?.values ?? []).map(([at, points]) => [at.join(','), points]))
    for (const [place, points] of found.value) {
        known.set(place, points)
    }
    if (await write([...known].map(([place, points]) => [place.split(','), points]))) {
        open.value = false
        text.value = ''
    }
}
</script>

<template>
    <div class="courses">
        <span class="label">Courses by {{ names }}</span>
        <p class="soft">
            {{
                own === 0
                    ? `All ${size} follow the points above.`
                    : own < size
                      ? `${own} of ${size} have a course of their own, the others follow the points above.`
                      : `Each of the ${size} has a course of its own.`
            }}
        </p>
        <p class="acts">
            <Button class="button" @click="open = true"><ClipboardPaste :size="14" :stroke-width="1.6" />Paste courses</Button>
            <Button v-if="own" class="link" @click="write([])">Let all follow the points above</Button>
        </p>
        <Dialog v-model:visible="open" modal header="Paste courses" :style="{ width: '560px' }">
            <div class="form">
                <p class="soft">
                    Times go down, {{ names }} across: the first line has the names of the elements{{
                        over.length > 1 ? ', with a comma between them' : ''
                    }}.
                </p>
                <Textarea v-model="text" rows="8" spellcheck="false" aria-label="Times and courses" class="field" autofocus />
                <p v-if="text.trim()" role="status">
                    <template v-if="found.length"
                        >{{ total }} points for {{ found.length }} of {{ size }}:
                        {{
                            found
                                .slice(0, 6)
                                .map(([place]) => look.partOf(`${thing.id}[${place}]`) || place)
                                .join('; ')
                        }}{{ found.length > 6 ? ' …' : '' }}.</template
                    >
                    <template v-else>No head is called like an element of {{ names }}.</template>
                </p>
                <p v-if="block.unknown.length" class="trouble">
                    Left out, as no element is called so: {{ block.unknown.slice(0, 8).join(', ') }}.
                </p>
                <p v-if="block.unread.length" class="trouble">No number in {{ block.unread.slice(0, 8).join(', ') }}; left out.</p>
                <p class="acts">
                    <Button class="button primary" :disabled="!found.length" @click="keep">Keep them</Button>
                    <Button class="button" @click="open = false">Cancel</Button>
                </p>
            </div>
        </Dialog>
    </div>
</template>

<style scoped>
.courses,
.form {
    display: grid;
    gap: 8px;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
}
.field {
    font-family: var(--mono);
    font-size: 13px;
}
</style>
