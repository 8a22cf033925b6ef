<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { useRoute } from 'vue-router'
import { ProblemError } from '@/api/client'
import { people } from '@/api/people'
import type { Field } from '@/ui/controls'
import PaperPage from './PaperPage.vue'
import PasswordField from './PasswordField.vue'
import './form.css'
import { useAct } from './useAct'

const route = useRoute()
const { wrong, busy, act } = useAct()
const email = ref('')
const password = ref('')
const code = ref('')
const keep = ref(false)
/** Whether a code is asked for besides. */
const asks = ref(false)
const codeField = ref<Field>()

/** Only to a place of this page. */
function onward(): string {
    const to = route.query.to
    return typeof to === 'string' && /^\/(?![/\\])/.test(to) ? to + route.hash : '/'
}

function signIn() {
    return act(async () => {
        try {
            await people.signIn(email.value, password.value, code.value.trim(), keep.value)
        } catch (error) {
            if (error instanceof ProblemError && error.code === 'second-factor') {
                const first = !asks.value
                asks.value = true
                await nextTick()
                codeField.value?.$el.select()
                if (first) {
                    return
                }
            }
            throw error
        }
        window.location.assign(onward())
    })
}
</script>

<template>
    <PaperPage title="Sign in" :home="false">
        <p v-if="route.query.to" class="soft why">You are not signed in, or not any more. You come back to where you were.</p>
        <form class="form" @submit.prevent="signIn">
            <label>
                Your address
                <InputText v-model="email" class="field" type="email" autocomplete="username" maxlength="255" required autofocus />
            </label>
            <PasswordField v-model="password" label="Password" complete="current-password" />
            <label v-if="asks">
                Code
                <InputText
                    ref="codeField"
                    v-model="code"
                    class="field"
                    inputmode="numeric"
                    autocomplete="one-time-code"
                    maxlength="40"
                    required
                />
                <span class="hint">The six digits that your authenticator shows now, or one of your recovery codes.</span>
            </label>
            <label class="tick">
                <Checkbox v-model="keep" binary />
                Keep me signed in on this machine for a month
            </label>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <p class="acts">
                <Button type="submit" class="button strong" :disabled="busy">Sign in</Button>
                <RouterLink class="quiet-link" to="/forgotten">I have forgotten my password</RouterLink>
            </p>
        </form>
    </PaperPage>
</template>

<style scoped>
.why {
    margin-bottom: 16px;
}
</style>
