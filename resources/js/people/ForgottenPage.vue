<script setup lang="ts">
import { ref } from 'vue'
import { people } from '@/api/people'
import PaperPage from './PaperPage.vue'
import './form.css'
import { useAct } from './useAct'

const { wrong, busy, act } = useAct()
const email = ref('')
const sent = ref(false)

async function ask() {
    sent.value = await act(() => people.forgotten(email.value))
}
</script>

<template>
    <PaperPage title="A new password" :home="false">
        <p v-if="sent" role="status">
            If there is an account with the address <strong>{{ email }}</strong>, a letter is on its way to it. What stands in it works for
            an hour.
        </p>
        <form v-else class="form" @submit.prevent="ask">
            <p>Write the address of your account. A letter brings you to where you choose a new password.</p>
            <label>
                Your address
                <InputText v-model="email" class="field" type="email" autocomplete="username" maxlength="255" required autofocus />
            </label>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <p class="acts">
                <Button type="submit" class="button strong" :disabled="busy">Send me a letter</Button>
                <RouterLink class="quiet-link" to="/sign-in">Back to signing in</RouterLink>
            </p>
        </form>
    </PaperPage>
</template>
