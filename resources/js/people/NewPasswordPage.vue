<script setup lang="ts">
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { people } from '@/api/people'
import PaperPage from './PaperPage.vue'
import PasswordField from './PasswordField.vue'
import './form.css'
import { useAct } from './useAct'

/** Opened by what stands in a letter. It stands behind a mark, so it was never sent anywhere. */
const sent = new URLSearchParams(useRoute().hash.slice(1))
const email = sent.get('email') ?? ''
const token = sent.get('token') ?? ''
const { wrong, busy, act } = useAct()
const password = ref('')
const done = ref(false)

async function choose() {
    done.value = await act(() => people.newPassword(email, token, password.value))
}
</script>

<template>
    <PaperPage title="A new password" :home="false">
        <p v-if="done" role="status">
            That is your password from now on. All sign-ins have ended; <RouterLink class="quiet-link" to="/sign-in">sign in</RouterLink>.
        </p>
        <form v-else class="form" @submit.prevent="choose">
            <p>
                For <strong>{{ email }}</strong>
            </p>
            <PasswordField v-model="password" label="New password" complete="new-password" />
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <Button type="submit" class="button strong" :disabled="busy">Take this one</Button>
        </form>
    </PaperPage>
</template>
