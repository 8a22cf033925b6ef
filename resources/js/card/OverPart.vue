<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import Menu from 'primevue/menu'
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import { useDimensions } from '@/stores/dimensions'
import { elementsOf } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import BeadString from '@/ui/BeadString.vue'

/** Over which dimensions a thing extends: what it says itself can be taken off, what follows from its formula goes with that. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const view = useView()
const dimensions = useDimensions()
const menu = ref<InstanceType<typeof Menu>>()

const says = computed(() => thing.says ?? [])
const over = computed(() => thing.along?.over ?? says.value)
const shown = computed(() =>
    over.value.flatMap((id) => {
        const dimension = model.model.dimensions.find((d) => d.id === id)
        return dimension ? [{ dimension, own: says.value.includes(id) }] : []
    }),
)
const wholes = computed(() => new Set(shown.value.map((s) => s.dimension.whole)))
const choices = computed(() => [
    ...dimensions
        .own()
        .filter((d) => !wholes.value.has(d.whole))
        .map((d) => ({
            label: d.name,
            size: elementsOf(d).length,
            command: () => {
                add(d.id)
            },
        })),
    {
        label: 'New dimension',
        size: 0,
        command: () => {
            void dimensions.add().then((id) => {
                if (id) {
                    add(id)
                    view.select()
                    view.dimension = id
                }
            })
        },
    },
])

function add(id: string) {
    // What followed from the formula stays when it says more.
    void dimensions.extend(thing, [...over.value.filter((d) => dimensions.own().some((o) => o.id === d)), id])
}
function take(id: string) {
    void dimensions.extend(
        thing,
        says.value.filter((d) => d !== id),
    )
}
function open(id: string) {
    view.select()
    view.dimension = id
}
</script>

<template>
    <div class="over" role="group" :aria-label="`Dimensions of ${thing.name}`">
        <span class="label">Over</span>
        <span v-for="{ dimension, own } in shown" :key="dimension.id" class="one" :class="{ own }">
            <Button class="open" :title="`Open ${dimension.name}`" :disabled="dimension.shared" @click="open(dimension.id)"
                ><BeadString :size="elementsOf(dimension).length" />{{ dimension.name }}</Button
            >
            <Button
                v-if="own"
                class="icon-button"
                :aria-label="`Take ${dimension.name} off ${thing.name}`"
                title="Take it off"
                @click="take(dimension.id)"
                ><X :size="13" :stroke-width="1.8"
            /></Button>
        </span>
        <span v-if="!shown.length" class="soft">a single number</span>
        <Button
            class="icon-button add"
            aria-haspopup="menu"
            :aria-label="`Let ${thing.name} extend over a dimension`"
            title="Extend it over a dimension"
            @click="menu?.toggle($event)"
            ><Plus :size="15" :stroke-width="1.6"
        /></Button>
        <Menu ref="menu" :model="choices" popup>
            <template #item="{ item, props: p }"
                ><a v-bind="p.action" class="choice"><BeadString :size="item.size" />{{ item.label }}</a></template
            >
        </Menu>
    </div>
</template>

<style scoped>
.over {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
}
.label {
    margin: 0 4px 0 0;
}
.one {
    display: inline-flex;
    align-items: center;
    border: 1px solid var(--hairline);
    border-radius: 13px;
    max-width: 100%;
}
.own {
    border-color: var(--line);
    background: var(--paper);
}
.open {
    display: flex;
    align-items: center;
    gap: 7px;
    min-width: 0;
    padding: 2px 8px;
}
.own .open {
    padding-right: 0;
}
.one .icon-button {
    width: 24px;
    height: 24px;
}
.choice {
    display: flex;
    align-items: center;
    gap: 9px;
    padding: 7px 12px;
}
</style>
