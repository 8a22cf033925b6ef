<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Kind } from '@/api/types'
import { useKeys } from '@/stores/keys'
import KindIcon from '@/ui/KindIcon.vue'

const emit = defineEmits<{ choose: [kind: Kind]; close: [] }>()
const keys = useKeys()
const list = ref<HTMLElement>()

const kinds: { kind: Kind; words: string }[] = [
    { kind: 'stock', words: 'Stock – what accumulates' },
    { kind: 'flow', words: 'Flow – what comes and goes' },
    { kind: 'auxiliary', words: 'Auxiliary – computed from others' },
    { kind: 'parameter', words: 'Parameter – a number to turn' },
    { kind: 'series', words: 'Series – a course over time, from data' },
    { kind: 'curve', words: 'Curve – one thing against another, by points' },
]

onMounted(() => {
    list.value?.querySelector('button')?.focus()
})

function move(by: number) {
    const buttons = [...(list.value?.querySelectorAll('button') ?? [])]
    const here = buttons.indexOf(document.activeElement as HTMLButtonElement)
    buttons[(here + by + buttons.length) % buttons.length]?.focus()
}

function key(event: KeyboardEvent) {
    const kind = kinds.find((k) => k.kind === keys.actOf(event))
    if (kind) {
        emit('choose', kind.kind)
    }
}
</script>

<template>
    <div
        ref="list"
        class="chooser"
        role="menu"
        aria-label="What to add"
        @keydown.stop="key"
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)"
        @keydown.escape="emit('close')"
        @pointerdown.stop
    >
        <button v-for="item in kinds" :key="item.kind" type="button" role="menuitem" @click="emit('choose', item.kind)">
            <KindIcon :kind="item.kind" :size="18" /><span>{{ item.words }}</span
            ><kbd v-if="item.kind !== 'flow' && item.kind !== 'factor'">{{ keys.word(item.kind) }}</kbd>
        </button>
    </div>
</template>

<style scoped>
.chooser {
    position: absolute;
    display: grid;
    padding: 5px;
    border: 1px solid var(--line);
    border-radius: 12px;
    background: var(--card);
    box-shadow: var(--shadow);
    z-index: 30;
}
button {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 7px 10px;
    border-radius: 8px;
    text-align: left;
    white-space: nowrap;
}
button span {
    flex: 1;
}
button:hover,
button:focus-visible {
    background: var(--hover);
    outline-offset: -2px;
}
kbd {
    font: 12px var(--mono);
    color: var(--ink-soft);
}
</style>
