<script setup lang="ts">
import { Check } from '@lucide/vue'
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ProblemError } from '@/api/client'
import { rooms, type RoomShown } from '@/api/room'
import { useAct } from '@/people/useAct'
import OrbitMark from '@/ui/OrbitMark.vue'
import SaidText from '@/ui/SaidText.vue'

/** A phone in a workshop: it shows what the room is at, and has one voice. */
const { code } = defineProps<{ code: string }>()
const KEPT = 'merry-orbit-phone'
const PACE = 1500
const told = shallowRef<RoomShown | null>(null)
const gone = ref('')
const draft = ref('')
const back = ref('')
const named = ref<string[]>([])
const one = ref('')
const other = ref('')
const { wrong, busy, act } = useAct()

function phone(): string {
    const known = localStorage.getItem(KEPT)
    if (known) {
        return known
    }
    const fresh = [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16).padStart(2, '0')).join('')
    localStorage.setItem(KEPT, fresh)
    return fresh
}
async function look() {
    if (document.hidden || busy.value) {
        return
    }
    try {
        told.value = await rooms.shown()
        gone.value = ''
    } catch (error) {
        if (error instanceof ProblemError && error.status === 404) {
            gone.value = 'No workshop is open at this address. Look whether it is written as on the wall, or ask who leads it.'
            told.value = null
        } else if (!told.value) {
            gone.value = (error as Error).message
        }
    }
}
useIntervalFn(look, PACE)
onMounted(() => {
    rooms.come(code.toLowerCase(), phone())
    document.title = 'In the room'
    void look()
})
const does = (work: () => Promise<RoomShown>) =>
    act(async () => {
        told.value = await work()
        back.value = told.value.back ?? ''
    })
async function name() {
    const text = draft.value.trim()
    if (text && (await does(() => rooms.name(text)))) {
        draft.value = ''
        if (!back.value) {
            named.value = [text, ...named.value]
        }
    }
}
async function pair() {
    if (await does(() => rooms.vote(one.value, other.value, true))) {
        one.value = other.value = ''
    }
}
const factors = computed(() => [...(told.value?.factors ?? [])].sort((a, b) => a.name.localeCompare(b.name)))
const mine = computed(() => (told.value?.pairs ?? []).filter((p) => p.mine).length)
const judge = (says: 'agree' | 'disagree') => {
    const { link } = told.value ?? {}
    return link && does(() => rooms.judge(link.id, link.mine === says ? 'nothing' : says))
}
</script>

<template>
    <main class="phone">
        <header><OrbitMark /> <span class="soft">In the room</span></header>
        <p v-if="gone" role="alert">{{ gone }}</p>
        <template v-else-if="told">
            <h1>{{ told.question }}</h1>
            <form v-if="told.step === 'factors'" @submit.prevent="name">
                <h2>What plays a part?</h2>
                <InputText
                    v-model="draft"
                    class="field"
                    aria-label="A factor"
                    maxlength="120"
                    placeholder="storm waves"
                    autocomplete="off"
                />
                <Button type="submit" class="button strong" :disabled="busy || !draft.trim()">Put it on the wall</Button>
                <p v-if="back" role="status">{{ back }}</p>
                <ul v-if="named.length" aria-label="What you named">
                    <li v-for="n in named" :key="n"><Check :size="16" /> {{ n }}</li>
                </ul>
            </form>
            <form v-else-if="told.step === 'pairs'" @submit.prevent="pair">
                <h2>What is connected?</h2>
                <ul v-if="told.pairs.length" class="votes" aria-label="Pairs">
                    <li v-for="p in told.pairs" :key="`${p.one} ${p.other}`">
                        <Button
                            class="vote"
                            :aria-pressed="p.mine"
                            :disabled="busy"
                            @click="does(() => rooms.vote(p.one, p.other, !p.mine))"
                            ><Check v-if="p.mine" :size="18" />{{ p.words }}</Button
                        >
                    </li>
                </ul>
                <p class="soft">{{ mine ? `You voted for ${mine}.` : 'Touch what you believe in, or put down another pair.' }}</p>
                <label
                    >This
                    <Select
                        v-model="one"
                        :options="factors"
                        option-label="name"
                        option-value="id"
                        aria-label="One"
                        placeholder="choose"
                        filter
                /></label>
                <label
                    >and that
                    <Select
                        v-model="other"
                        :options="factors.filter((f) => f.id !== one)"
                        option-label="name"
                        option-value="id"
                        aria-label="The other"
                        placeholder="choose"
                        filter
                /></label>
                <Button type="submit" class="button strong" :disabled="busy || !one || !other">Vote for it</Button>
            </form>
            <section v-else-if="told.step === 'links' && told.link" class="judge" aria-label="The link that is talked about">
                <p v-for="(s, i) in told.link.sentences" :key="i" class="said"><SaidText :text="s" /></p>
                <Button class="vote" :aria-pressed="told.link.mine === 'agree'" :disabled="busy" @click="judge('agree')"
                    ><Check v-if="told.link.mine === 'agree'" :size="18" />I agree</Button
                >
                <Button class="vote" :aria-pressed="told.link.mine === 'disagree'" :disabled="busy" @click="judge('disagree')"
                    ><Check v-if="told.link.mine === 'disagree'" :size="18" />I do not agree</Button
                >
            </section>
            <p v-else class="wait">Look at the wall and talk to each other. When there is something to say here, it appears.</p>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        </template>
    </main>
</template>

<style scoped>
.phone {
    max-width: 480px;
    min-height: 100%;
    margin: 0 auto;
    padding: 16px 20px 40px;
    font-size: 17px;
}
header {
    display: flex;
    align-items: center;
    gap: 10px;
    margin-bottom: 20px;
}
h1 {
    margin-bottom: 20px;
    font-size: 21px;
    line-height: 1.25;
}
h2 {
    font-size: 17px;
}
form,
.judge {
    display: grid;
    gap: 12px;
}
.field {
    width: 100%;
    height: 48px;
    padding: 0 14px;
    border: 1.5px solid var(--line);
    border-radius: 12px;
    background: var(--card);
    font-size: 17px;
}
.button {
    height: 48px;
    justify-content: center;
    font-size: 17px;
}
label {
    display: grid;
    gap: 4px;
}
label :deep(.p-select) {
    align-items: center;
    height: 48px;
    font-size: 17px;
}
ul {
    margin: 0;
    padding: 0;
    list-style: none;
}
li {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 4px 0;
}
.vote {
    display: flex;
    align-items: center;
    justify-content: center;
    gap: 8px;
    width: 100%;
    min-height: 52px;
    padding: 8px 14px;
    border: 1.5px solid var(--line);
    border-radius: 12px;
    background: var(--card);
    font-size: 17px;
}
.vote[aria-pressed='true'] {
    border-color: var(--ink);
    background: var(--ink);
    color: var(--paper);
    font-weight: 700;
}
.said {
    font-size: 19px;
    line-height: 1.35;
}
.wait {
    color: var(--ink-soft);
}
.wrong {
    margin-top: 12px;
    color: var(--brick);
}
</style>
