<script setup lang="ts">
import { computed, onMounted, shallowRef } from 'vue'
import { people, type SignIn } from '@/api/people'
import { useAct } from './useAct'
import { dayWords, sinceWords } from './when'

/** Where one is signed in. */
const all = shallowRef<SignIn[]>([])
const { wrong, act, look } = useAct()
const load = () =>
    look(async () => {
        all.value = await people.signIns()
    })
onMounted(load)
const others = computed(() => all.value.filter((s) => !s.here).length)
async function end(id: number) {
    if (await act(() => people.endSignIn(id))) {
        await load()
    }
}
async function endOthers() {
    if (await act(() => people.endOthers())) {
        await load()
    }
}
</script>

<template>
    <section aria-labelledby="sign-ins">
        <h2 id="sign-ins">Where you are signed in</h2>
        <ul class="lines">
            <li v-for="one in all" :key="one.id">
                <span>
                    <strong>{{ one.browser }}</strong> at {{ one.address }}
                    <span class="soft">
                        · since {{ dayWords(one.since) }} · {{ one.here ? 'this browser' : `last seen ${sinceWords(one.seen)}` }}
                    </span>
                </span>
                <Button
                    v-if="!one.here"
                    class="button"
                    :aria-label="`End the sign-in of ${one.browser} at ${one.address}`"
                    @click="end(one.id)"
                    >End it</Button
                >
            </li>
        </ul>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <Button v-if="others > 1" class="button" @click="endOthers">End all but this one</Button>
    </section>
</template>

<style scoped>
.lines {
    margin: 0 0 14px;
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
</style>
