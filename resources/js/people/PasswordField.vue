<script setup lang="ts">
import { Eye, EyeOff } from '@lucide/vue'
import { ref, useId } from 'vue'

/** A password, which can be looked at while it is typed. */
const value = defineModel<string>({ required: true })
const { complete } = defineProps<{ label: string; complete: 'current-password' | 'new-password' }>()
/** Said before it is refused; the server decides. */
const hint =
    complete === 'new-password' ? 'At least 12 characters. Three or four words that have nothing to do with each other are good.' : ''
const id = useId()
const shown = ref(false)
</script>

<template>
    <div class="password">
        <label :for="id">{{ label }}</label>
        <span class="both">
            <InputText
                :id="id"
                v-model="value"
                class="field"
                :type="shown ? 'text' : 'password'"
                :autocomplete="complete"
                :aria-describedby="hint ? `${id}-hint` : undefined"
                maxlength="1000"
                required
            />
            <Button
                type="button"
                class="icon-button eye"
                :aria-label="shown ? 'Hide the password' : 'Show the password'"
                :aria-pressed="shown"
                @click="shown = !shown"
                ><EyeOff v-if="shown" :size="17" :stroke-width="1.5" /><Eye v-else :size="17" :stroke-width="1.5"
            /></Button>
        </span>
        <span v-if="hint" :id="`${id}-hint`" class="hint">{{ hint }}</span>
    </div>
</template>

<style scoped>
.password {
    display: grid;
    gap: 4px;
    width: 100%;
}
.both {
    position: relative;
    display: block;
}
.field {
    padding-right: 40px;
}
.eye {
    position: absolute;
    right: 3px;
    top: 3px;
}
</style>
