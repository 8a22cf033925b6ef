<script setup lang="ts">
import { Check, Copy } from '@lucide/vue'
import { onMounted, ref, shallowRef } from 'vue'
import { people, type ApiToken } from '@/api/people'
import OpensForm from './OpensForm.vue'
import PasswordField from './PasswordField.vue'
import { useAct } from './useAct'
import { dayWords, sinceWords } from './when'

/** Tokens that programs bring instead of signing in. */
defineProps<{ asks: boolean }>()
const { wrong, busy, act, look } = useAct()
const all = shallowRef<ApiToken[]>([])
const scopes = shallowRef<Record<string, string>>({})
const name = ref('')
const wanted = ref<string[]>(['read'])
const days = ref(90)
const DAYS = [
    { label: 'a week', value: 7 },
    { label: 'three months', value: 90 },
    { label: 'a year', value: 365 },
]
const password = ref('')
const made = ref('')
const copied = ref(false)

const load = () =>
    look(async () => {
        const answer = await people.tokens()
        all.value = answer.tokens
        scopes.value = answer.scopes
    })
onMounted(load)

async function make() {
    const ok = await act(async () => {
        const token = await people.makeToken({ name: name.value, scopes: wanted.value, days: days.value, password: password.value })
        made.value = token.token ?? ''
    })
    if (ok) {
        name.value = password.value = ''
        copied.value = false
        await load()
    }
}
async function drop(token: ApiToken) {
    if (await act(() => people.dropToken(token.id))) {
        made.value = ''
        await load()
    }
}
async function copy() {
    await navigator.clipboard.writeText(made.value)
    copied.value = true
}
</script>

<template>
    <section aria-labelledby="tokens">
        <h2 id="tokens">Tokens for programs</h2>
        <p>A script brings a token instead of signing in, and may then do what the token says, as you.</p>
        <div v-if="made" class="made" role="status">
            <p><strong>This is the token. It is shown once.</strong> Keep it like a password.</p>
            <p class="one">
                <code>{{ made }}</code>
                <Button class="button" @click="copy"
                    ><Check v-if="copied" :size="15" /><Copy v-else :size="15" />{{ copied ? 'Copied' : 'Copy it' }}</Button
                >
            </p>
        </div>
        <ul v-if="all.length" class="lines">
            <li v-for="token in all" :key="token.id">
                <span>
                    <strong>{{ token.name }}</strong>
                    <span class="soft">
                        · may {{ token.scopes.join(' and ') }} · {{ token.used ? `used ${sinceWords(token.used)}` : 'not used yet' }} ·
                        until {{ token.until ? dayWords(token.until) : 'it is taken away' }}</span
                    >
                </span>
                <Button class="button" :aria-label="`Take the token ${token.name} away`" @click="drop(token)">Take it away</Button>
            </li>
        </ul>
        <OpensForm words="Make a token"
            ><form class="form" @submit.prevent="make">
                <label
                    >What it is for
                    <InputText v-model="name" class="field" maxlength="80" placeholder="the weekly report" required />
                </label>
                <fieldset>
                    <legend>What it may do</legend>
                    <label v-for="(words, scope) in scopes" :key="scope" class="tick">
                        <Checkbox v-model="wanted" :value="scope" />
                        <span
                            ><strong>{{ scope }}</strong
                            >: {{ words }}</span
                        >
                    </label>
                </fieldset>
                <label
                    >For how long
                    <Select v-model="days" :options="DAYS" option-label="label" option-value="value" aria-label="For how long" />
                </label>
                <PasswordField v-if="asks" v-model="password" label="Your password" complete="current-password" />
                <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
                <Button type="submit" class="button" :disabled="busy || !wanted.length">Make a token</Button>
            </form></OpensForm
        >
    </section>
</template>

<style scoped>
.made {
    padding: 12px 16px;
    margin-bottom: 16px;
    border: 1px solid var(--line);
    border-radius: 9px;
    background: var(--card);
}
.one {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 12px;
    margin-top: 8px;
}
code {
    font-family: var(--mono);
    overflow-wrap: anywhere;
}
.lines {
    margin: 0 0 18px;
    padding: 0;
    list-style: none;
}
.lines li {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 16px;
    min-height: 44px;
    padding: 6px 0;
    border-bottom: 1px solid var(--hairline);
}
fieldset {
    margin: 0;
    padding: 0;
    border: 0;
}
legend {
    padding: 0;
    margin-bottom: 6px;
    font-weight: 700;
}
fieldset .tick {
    margin-bottom: 6px;
    align-items: start;
}
</style>
