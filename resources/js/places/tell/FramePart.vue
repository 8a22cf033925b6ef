<script setup lang="ts">
import { computed, ref } from 'vue'
import { shown, type ShownLink } from '@/api/shown'
import { useAct } from '@/people/useAct'
import { useModel } from '@/stores/model'

/** Where a page for readers may stand in a frame of somebody else’s page, and what that page needs for it. */
const { link, known } = defineProps<{
    link: ShownLink
    /** The key or the readable address, where it is known. */ known: string
}>()
const emit = defineEmits<{ changed: [] }>()
const model = useModel()
const { wrong, busy, act } = useAct()
const writing = ref(false)
const hosts = ref('')
const copied = ref(false)

function write() {
    writing.value = !writing.value
    hosts.value = link.hosts.join('\n')
}
async function allow() {
    if (await act(() => shown.hosts(model.study, link.id, hosts.value.split(/[\s,]+/).filter(Boolean)))) {
        writing.value = false
        emit('changed')
    }
}
const line = computed(() => {
    const { origin } = window.location
    const frame = `<iframe src="${origin}/embed/${link.id}#${known}" data-merry-orbit title="${model.model.name.replaceAll('"', '&quot;')}"`
    // The end of a script would end this one.
    return `${frame} width="100%" height="900" style="border: 0"></iframe>\n<script src="${origin}/embed.js" async></${'script'}>`
})
async function copy() {
    await navigator.clipboard.writeText(line.value)
    copied.value = true
}
</script>

<template>
    <p v-if="link.hosts.length && !writing" class="soft">may stand in pages of {{ link.hosts.join(', ') }}</p>
    <form v-if="writing" class="card" @submit.prevent="allow">
        <label
            >Whose pages may show it within them, one a line
            <Textarea v-model="hosts" class="field" rows="2" auto-resize placeholder="https://school.example" />
        </label>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <Button type="submit" class="button" :disabled="busy">Let them</Button>
    </form>
    <template v-else-if="link.hosts.length">
        <template v-if="known">
            <label
                >What their page needs
                <Textarea class="field code" :model-value="line" rows="5" readonly />
            </label>
            <p class="acts">
                <Button class="act" @click="copy">{{ copied ? 'Copied' : 'Copy it' }}</Button>
            </p>
        </template>
        <p v-else class="soft">What their page needs holds the key, which was told when the link was made: make a new link for them.</p>
    </template>
    <p class="acts">
        <Button class="act" :aria-expanded="writing" @click="write">Show it within another page…</Button>
    </p>
</template>

<style scoped>
.code {
    font-family: var(--mono);
    font-size: 12px;
}
.wrong {
    color: var(--brick);
}
</style>
