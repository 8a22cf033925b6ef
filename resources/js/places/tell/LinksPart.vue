<script setup lang="ts">
import { Check, Copy } from '@lucide/vue'
import { onMounted, ref, shallowRef } from 'vue'
import { shown, type ShownLink } from '@/api/shown'
import { useAct } from '@/people/useAct'
import { dayWords, sinceWords } from '@/people/when'
import FramePart from './FramePart.vue'
import { useModel } from '@/stores/model'

/** Secret addresses by which anybody sees the page; their keys are told once. */
const { showcase } = defineProps<{ showcase: string }>()
const model = useModel()
const { wrong, busy, act, look } = useAct()
const links = shallowRef<ShownLink[]>([])
const name = ref('')
const may = ref('try')
const MAY = [
    { label: 'look and try', value: 'try' },
    { label: 'look only', value: 'look' },
    { label: 'look, try and take a copy of the whole study', value: 'copy' },
]
/** A study is read as a whole: whoever reads it may try it. */
const choices = MAY.filter((m) => showcase || m.value !== 'look')
const mayWords = (value: string) => MAY.find((m) => m.value === value)?.label ?? value
const until = ref('')
const password = ref('')
const address = ref('')
/** Whether readers go on seeing the version of today. */
const stays = ref(false)
const made = ref('')
const copied = ref(false)

/** The one just made, whose key is known. */
const fresh = shallowRef<ShownLink | null>(null)
const addressOf = (readable: string) => `${window.location.origin}/see/${readable}`
const load = () =>
    look(async () => {
        if (model.may === 'own') {
            links.value = (await shown.links(model.study)).filter((l) => l.showcase === showcase)
        }
    })
onMounted(load)
async function make() {
    const done = await act(async () => {
        const link = await shown.makeLink(model.study, {
            showcase,
            name: name.value,
            may: may.value,
            until: until.value || null,
            password: password.value || null,
            address: address.value || null,
            stays: stays.value,
        })
        made.value = link.address ? addressOf(link.address) : `${window.location.origin}/see#${link.key ?? ''}`
        fresh.value = link
        copied.value = false
    })
    if (done) {
        name.value = until.value = password.value = address.value = ''
        await load()
    }
}
async function takeBack(link: ShownLink) {
    if (await act(() => shown.takeBack(model.study, link.id))) {
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
    <p v-if="model.may !== 'own'" class="soft">Only who owns the study makes links to its pages.</p>
    <template v-else>
        <p v-if="showcase" class="soft">
            Whoever has the link sees this page, without an account, and nothing else of the study. What you change is there some seconds
            later, unless a link keeps its version.
        </p>
        <p v-else class="soft">Whoever has the link reads the whole study and tries it, without an account, and changes nothing.</p>
        <div v-if="made" class="card" role="status">
            <p v-if="fresh?.address"><strong>The page is published.</strong> Whoever knows or guesses its address sees it.</p>
            <p v-else><strong>The link is shown once.</strong> Send it to whom it is for.</p>
            <p class="address">{{ made }}</p>
            <p class="acts">
                <Button class="button" @click="copy"
                    ><Check v-if="copied" :size="15" /><Copy v-else :size="15" />{{ copied ? 'Copied' : 'Copy it' }}</Button
                >
                <a class="button" :href="made" target="_blank" rel="noopener">Open it</a>
            </p>
        </div>
        <form class="card" @submit.prevent="make">
            <label>For whom it is <InputText v-model="name" class="field" maxlength="80" placeholder="the harbour council" /></label>
            <label
                >They may
                <Select
                    v-model="may"
                    :options="choices"
                    option-label="label"
                    option-value="value"
                    aria-label="What whoever has the link may do"
                />
            </label>
            <div class="pair">
                <label>Until, if not for ever <InputText v-model="until" class="field" type="date" /></label>
                <label>Password, if wished <InputText v-model="password" class="field" maxlength="200" autocomplete="off" /></label>
            </div>
            <template v-if="showcase">
                <label
                    >A readable address, if everybody may find it
                    <InputText v-model="address" class="field" maxlength="60" placeholder="ferry-season" autocomplete="off" />
                </label>
                <span class="tick"
                    ><Checkbox v-model="stays" binary input-id="link-stays" /><label for="link-stays"
                        >They go on seeing the version of today, whatever I change</label
                    ></span
                >
            </template>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <Button type="submit" class="button strong" :disabled="busy">Make a link</Button>
        </form>
        <section v-for="l in links" :key="l.id" class="card" :aria-label="`Link ${l.name}`">
            <p>
                <strong>{{ l.name || 'A link' }}</strong>
            </p>
            <p class="soft">
                may {{ mayWords(l.may) }} ·
                {{
                    l.opened === 0
                        ? 'not opened yet'
                        : `opened ${l.opened === 1 ? 'once' : `${l.opened} times`}, last ${sinceWords(l.openedAt ?? l.made)}`
                }}
                <template v-if="l.version !== null"> · shows version {{ l.version }}</template>
                <template v-if="l.locked"> · with a password</template>
                <template v-if="l.until"> · {{ l.over ? 'was open' : '' }} until {{ dayWords(l.until) }}</template>
            </p>
            <p v-if="l.address" class="address">
                <a :href="addressOf(l.address)" target="_blank" rel="noopener">{{ addressOf(l.address) }}</a>
            </p>
            <FramePart v-if="showcase" :link="l" :known="l.address ?? (fresh?.id === l.id ? (fresh.key ?? '') : '')" @changed="load" />
            <p class="acts"><Button class="act" @click="takeBack(l)">Take it back</Button></p>
        </section>
    </template>
</template>

<style scoped>
.address {
    font-family: var(--mono);
    font-size: 12.5px;
    overflow-wrap: anywhere;
}
.tick {
    display: flex;
    gap: 8px;
    align-items: start;
}
.wrong {
    color: var(--brick);
}
form .button {
    justify-self: start;
}
</style>
