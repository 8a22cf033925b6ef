<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Thing } from '@/api/types'
import { useNamePreview } from '@/card/useNamePreview'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const view = useView()
const text = ref(thing.name)
const sentence = ref('')
const field = ref<HTMLInputElement>()
const { followers, refusal } = useNamePreview(() => thing, text)
let busy = false
/** Whether the formula is asked for behind the name. */
let goesOn = true

/** A new shape is measured before it is shown, and cannot take the focus until then. */
function takeFocus(tries = 30) {
    field.value?.focus({ preventScroll: true })
    if (document.activeElement === field.value) {
        const ahead = view.takeAhead()
        if (ahead.text) {
            text.value = ahead.text
        } else {
            field.value?.select()
        }
        if (ahead.ended) {
            void keep(true)
        }
    } else if (tries) {
        requestAnimationFrame(() => {
            takeFocus(tries - 1)
        })
    }
}
onMounted(() => {
    takeFocus()
})

/** While the name is on its way, what is typed is meant for the field that comes next. */
function key(event: KeyboardEvent) {
    if (busy && event.key === 'Escape') {
        goesOn = false
        event.preventDefault()
    } else if (busy) {
        view.typeAhead(event)
    } else if (event.key === 'Enter') {
        event.preventDefault()
        void keep(true)
    } else if (event.key === 'Escape') {
        event.preventDefault()
        leave()
    }
}

async function keep(goOn: boolean) {
    if (busy || view.naming !== thing.id) {
        return
    }
    busy = true
    goesOn = goOn
    try {
        if (text.value.trim() !== thing.name) {
            await model.edit({ kind: 'rename', id: thing.id, name: text.value })
        }
        view.naming = ''
        if (goesOn && !thing.formula) {
            view.saying = thing.id
        } else {
            view.typedAhead = ''
        }
    } catch (error) {
        view.typedAhead = ''
        if (goOn && !goesOn) {
            leave()
        }
        sentence.value = (error as Error).message
        field.value?.focus()
    }
    busy = false
}

function leave() {
    view.naming = ''
}
</script>

<template>
    <div class="naming nodrag nopan" @pointerdown.stop @dblclick.stop>
        <input
            ref="field"
            v-model="text"
            class="field"
            :class="{ wrong: sentence }"
            :aria-label="`Name of the ${thing.kind}`"
            :size="Math.max(10, text.length)"
            @keydown.stop="key"
            @blur="keep(false)"
        />
        <p v-if="sentence || refusal" class="trouble" role="alert"><SaidText :text="sentence || refusal" /></p>
        <p v-else-if="followers.length" role="status">
            {{ followers.length === 1 ? 'One formula follows' : `${followers.length} formulas follow` }}
        </p>
    </div>
</template>

<style scoped>
.naming {
    position: absolute;
    left: 50%;
    top: 50%;
    width: max-content;
    transform: translate(-50%, -50%);
    z-index: 20;
}
.field {
    max-width: 280px;
    border-color: var(--ember);
    background: var(--card);
    font-weight: 700;
    text-align: center;
}
p {
    position: absolute;
    top: 100%;
    left: 50%;
    width: 260px;
    margin: 4px 0 0 -130px;
    padding: 6px 10px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--card);
    color: var(--ink-soft);
    font-size: 13px;
}
.trouble {
    border-color: var(--brick);
    color: var(--brick);
}
</style>
