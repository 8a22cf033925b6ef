<script setup lang="ts">
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { people } from '@/api/people'
import PaperPage from './PaperPage.vue'
import './form.css'
import { useAct } from './useAct'

/** Opened by a letter to another address, which becomes that of the account. Not by itself: programs look at letters, too. */
const key = useRoute().hash.slice(1)
const { wrong, busy, act } = useAct()
const done = ref(false)

async function take() {
    done.value = await act(() => people.takeAddress(key))
}
</script>

<template>
    <PaperPage title="Your new address" :home="false">
        <p v-if="done" role="status">You sign in with it from now on. <RouterLink class="quiet-link" to="/">To your studies</RouterLink></p>
        <form v-else class="form" @submit.prevent="take">
            <p>The address that this letter came to becomes that of your account.</p>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <Button type="submit" class="button strong" :disabled="busy">Take this address</Button>
        </form>
    </PaperPage>
</template>
