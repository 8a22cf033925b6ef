<script setup lang="ts">
import { Check, Copy } from '@lucide/vue'
import { onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { ProblemError } from '@/api/client'
import { shown } from '@/api/shown'
import '@/people/form.css'
import PaperPage from '@/people/PaperPage.vue'
import { useAct } from '@/people/useAct'
import { dayWords } from '@/people/when'

/** A copy that somebody took without an account: its address is the way back to it, for a month. */
const { hash } = useRoute()
const key = hash.slice(1)
const told = shallowRef<{ name: string; from: string; until: string | null; signedIn: string | null } | null>(null)
const gone = ref('')
const copied = ref(false)
const address = `${window.location.origin}/copy#${key}`
const { wrong, busy, act } = useAct()
onMounted(async () => {
    try {
        told.value = await shown.copyOf(key)
    } catch (error) {
        gone.value =
            error instanceof ProblemError && error.status === 404
                ? 'This copy is not kept any more, or belongs to an account by now; or its address was cut off on its way.'
                : (error as Error).message
    }
})
const open = () =>
    act(async () => {
        window.location.assign(`/studies/${await shown.openCopy(key)}`)
    })
const keep = () =>
    act(async () => {
        window.location.assign(`/studies/${(await shown.keepCopy(key)).id}`)
    })
async function copy() {
    await navigator.clipboard.writeText(address)
    copied.value = true
}
</script>

<template>
    <PaperPage v-if="told" title="Your copy" :home="false">
        <div class="form">
            <p>
                It is a copy of <strong>{{ told.from }}</strong>{{ told.name === told.from ? '' : `, which you called “${told.name}”` }}.
                Change what you like: nothing of it reaches the original.
            </p>
            <template v-if="told.signedIn">
                <p>You are signed in as {{ told.signedIn }}: it can stand among your studies, for as long as you like.</p>
                <p class="acts">
                    <Button class="button strong" :disabled="busy" @click="keep">Keep it among my studies</Button>
                </p>
            </template>
            <template v-else>
                <p v-if="told.until">
                    You need no account for it. It is kept until <strong>{{ dayWords(told.until) }}</strong> under this address, which is
                    the only way back to it:
                </p>
                <p class="address">{{ address }}</p>
                <p class="acts">
                    <Button class="button strong" :disabled="busy" @click="open">Open it</Button>
                    <Button class="button" @click="copy"
                        ><Check v-if="copied" :size="15" /><Copy v-else :size="15" />{{ copied ? 'Copied' : 'Copy the address' }}</Button
                    >
                </p>
                <p class="hint">
                    With an account,
                    <RouterLink class="quiet-link" :to="{ path: '/sign-in', query: { to: '/copy' }, hash }">sign in</RouterLink>
                    to keep it for longer.
                </p>
            </template>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        </div>
    </PaperPage>
    <PaperPage v-else-if="gone" title="There is nothing here" :home="false">
        <p role="alert">{{ gone }}</p>
    </PaperPage>
</template>

<style scoped>
.address {
    width: 100%;
    padding: 10px 12px;
    border: 1px solid var(--line);
    border-radius: 9px;
    background: var(--card);
    font-family: var(--mono);
    font-size: 13px;
    overflow-wrap: anywhere;
}
</style>
