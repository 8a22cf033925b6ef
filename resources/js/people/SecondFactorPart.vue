<script setup lang="ts">
import QRCode from 'qrcode'
import { ref } from 'vue'
import { people, type Me } from '@/api/people'
import OpensForm from './OpensForm.vue'
import PasswordField from './PasswordField.vue'
import { useAct } from './useAct'

/** Codes of an authenticator besides the password. */
defineProps<{ me: Me }>()
const emit = defineEmits<{ changed: [] }>()
const { wrong, busy, act } = useAct()
const password = ref('')
const code = ref('')
const secret = ref('')
/** The address an authenticator reads, as a picture; made here, so the secret goes nowhere. */
const picture = ref('')
const codes = ref<string[]>([])

const begin = () =>
    act(async () => {
        const made = await people.beginSecondFactor(password.value)
        secret.value = made.secret
        picture.value = await QRCode.toDataURL(made.address, { margin: 1, width: 200 })
        password.value = ''
    })
const confirm = () =>
    act(async () => {
        codes.value = await people.confirmSecondFactor(code.value)
        secret.value = code.value = ''
        emit('changed')
    })
const end = () =>
    act(async () => {
        await people.endSecondFactor(password.value)
        password.value = ''
        codes.value = []
        emit('changed')
    })
</script>

<template>
    <section aria-labelledby="second-factor">
        <h2 id="second-factor">Second factor</h2>
        <template v-if="codes.length">
            <p role="status">
                <strong>It is set up.</strong> Keep these recovery codes where your phone is not. Each lets you in once, when the
                authenticator is lost; they are not shown again.
            </p>
            <ul class="codes">
                <li v-for="one in codes" :key="one">{{ one }}</li>
            </ul>
        </template>
        <template v-if="me.secondFactor">
            <p>
                Besides the password, a code of your authenticator is asked for.
                {{ me.recoveryCodes === 1 ? 'One recovery code is' : `${me.recoveryCodes} recovery codes are` }} left.
            </p>
            <OpensForm words="Take the second factor away"
                ><form class="form" @submit.prevent="end">
                    <PasswordField v-model="password" label="Your password" complete="current-password" />
                    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
                    <Button type="submit" class="button" :disabled="busy">Take it away</Button>
                </form></OpensForm
            ></template
        >
        <form v-else-if="secret" class="form" @submit.prevent="confirm">
            <p>Let your authenticator read this picture, then type the six digits that it shows.</p>
            <img class="qr" :src="picture" width="200" height="200" alt="The secret as a QR code; it stands below as text" />
            <p>
                Or type it there: <code class="secret">{{ secret.replace(/.{4}/g, '$& ').trim() }}</code>
            </p>
            <label
                >Code
                <InputText v-model="code" class="field" inputmode="numeric" autocomplete="one-time-code" maxlength="40" required />
            </label>
            <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
            <Button type="submit" class="button strong" :disabled="busy">Set it up</Button>
        </form>
        <template v-else>
            <p>A code that changes every half minute, from an authenticator on your phone. Whoever learns your password is not in yet.</p>
            <OpensForm words="Set up a second factor"
                ><form class="form" @submit.prevent="begin">
                    <PasswordField v-model="password" label="Your password" complete="current-password" />
                    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
                    <Button type="submit" class="button" :disabled="busy">Go on</Button>
                </form></OpensForm
            ></template
        >
    </section>
</template>

<style scoped>
.qr {
    border: 8px solid #fff;
    border-radius: 8px;
    image-rendering: pixelated;
}
.secret,
.codes {
    font-family: var(--mono);
}
.codes {
    display: grid;
    grid-template-columns: repeat(2, max-content);
    gap: 4px 28px;
    margin: 0 0 18px;
    padding: 14px 18px;
    border: 1px solid var(--line);
    border-radius: 9px;
    background: var(--card);
    list-style: none;
    width: max-content;
    max-width: 100%;
}
</style>
