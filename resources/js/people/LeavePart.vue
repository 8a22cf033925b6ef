<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ref } from 'vue'
import { people } from '@/api/people'
import { download } from '@/ui/download'
import PasswordField from './PasswordField.vue'
import { useAct } from './useAct'

/** Everything at once: to take along, and to leave. */
defineProps<{ demo: boolean }>()
const { wrong, busy, act } = useAct()
const leaving = ref(false)
const password = ref('')
const taking = useAct()
const take = () =>
    taking.act(async () => {
        download('merry-orbit-all-of-my-data.zip', await people.takeAlong())
    })
async function leave() {
    if (await act(() => people.leave(password.value))) {
        window.location.assign('/sign-in')
    }
}
</script>

<template>
    <section aria-labelledby="leave">
        <h2 id="leave">All of your data</h2>
        <p>One ZIP with each of your studies, the files of their data, your comments, and what is known of your account.</p>
        <p v-if="taking.wrong.value" class="wrong" role="alert">{{ taking.wrong.value }}</p>
        <Button class="button" :disabled="taking.busy.value" @click="take"><Download :size="16" :stroke-width="1.5" />Take it along</Button>
    </section>
    <section v-if="!demo" aria-labelledby="delete">
        <h2 id="delete">Leave</h2>
        <p>
            Your account and your studies are deleted at once, also for those you share them with: hand over first what others need. What
            you changed in studies of others stays there, without your name.
        </p>
        <Button v-if="!leaving" class="button" @click="leaving = true">Delete my account…</Button>
        <form v-else class="form" @submit.prevent="leave">
            <PasswordField v-model="password" label="Your password" complete="current-password" />
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <p class="acts">
                <Button type="submit" class="button strong" :disabled="busy">Delete my account and my studies</Button>
                <Button type="button" class="button" @click="leaving = false">Stay</Button>
            </p>
        </form>
    </section>
</template>
