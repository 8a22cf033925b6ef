<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { people } from '@/api/people'
import PaperPage from './PaperPage.vue'
import PasswordField from './PasswordField.vue'
import './form.css'
import { useAct } from './useAct'

/** Opened by a key: the first account's, or one of an invitation. */
const key = useRoute().hash.slice(1)
const { wrong, busy, act } = useAct()
const what = ref<{ kind: 'first' | 'invitation' | 'address'; email: string | null; by: string | null } | null>(null)
/** Why the key opens nothing. */
const spent = ref('')
const name = ref('')
const email = ref('')
const password = ref('')
const title = computed(() => (what.value?.kind === 'first' ? 'The first account' : 'Your account'))

onMounted(async () => {
    try {
        what.value = await people.key(key)
    } catch (error) {
        spent.value = (error as Error).message
    }
})

async function join() {
    if (await act(() => people.join(key, name.value, what.value?.email ? null : email.value, password.value))) {
        window.location.assign('/')
    }
}
</script>

<template>
    <PaperPage :key="title" :title="title" :home="false">
        <p v-if="spent" role="alert">
            {{ spent }} If you have an account, <RouterLink class="quiet-link" to="/sign-in">sign in</RouterLink>.
        </p>
        <form v-else-if="what" class="form" @submit.prevent="join">
            <p v-if="what.kind === 'first'">Whoever makes it can invite the others.</p>
            <p v-else-if="what.by">
                <strong>{{ what.by }}</strong> invites you to Merry Orbit, where one draws how a system works and watches it behave.
            </p>
            <label>
                What you are called
                <InputText v-model="name" class="field" autocomplete="name" maxlength="80" required autofocus />
                <span class="hint">Others see it on what you share, change and say.</span>
            </label>
            <p v-if="what.email">
                Your address: <strong>{{ what.email }}</strong>
            </p>
            <label v-else>
                Your address
                <InputText v-model="email" class="field" type="email" autocomplete="username" maxlength="255" required />
                <span class="hint">You sign in with it.</span>
            </label>
            <PasswordField v-model="password" label="Password" complete="new-password" />
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <Button type="submit" class="button strong" :disabled="busy">Make the account</Button>
        </form>
    </PaperPage>
</template>
