<script setup lang="ts">
import { refDebounced, useFileDialog } from '@vueuse/core'
import { Upload } from '@lucide/vue'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { members as api } from '@/api/members'
import type { Edit, RelationTable } from '@/api/types'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { newId } from '@/ui/ids'
import ChoiceField from '@/ui/ChoiceField.vue'
import { counted } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'

/** A list of pairs becomes a relation between members: who waits for whom, who supplies whom. */
const { roster, known = null } = defineProps<{
    roster: { of: string; name: string }
    /** A relation that gets other pairs, and what it is called from the other side. */ known?: {
        name: string
        back: string
        to: string
    } | null
}>()
const emit = defineEmits<{ done: [] }>()
const members = useMembers()
const model = useModel()
const id = newId()
const text = ref('')
const name = ref(known?.name ?? '')
/** What the same pairs are called from the other side, if anything asks. */
const back = ref(known?.back ?? '')
/** Of which roster the second of a pair is. */
const second = ref(known?.to ?? roster.of)
const seconds = computed(() => members.rosters.map((r) => ({ value: r.of, words: r.name })))
const secondName = computed(() => members.rosters.find((r) => r.of === second.value)?.name ?? roster.name)
/** Whether those that the table names are all that there are. */
const lists = ref(false)
const told = ref<RelationTable | null>(null)
const trouble = ref('')
const rested = refDebounced(text, 250)
const called = refDebounced(name, 250)
const turned = refDebounced(back, 250)
let asked = 0
watch([rested, called, turned, lists, second], async () => {
    const ticket = ++asked
    told.value = null
    trouble.value = ''
    if (!rested.value.trim() || !called.value.trim()) {
        return
    }
    try {
        const isOther = second.value !== roster.of
        const more = { back: turned.value.trim(), lists: lists.value && !isOther, ...(isOther ? { to: second.value } : {}) }
        const answer = await api.relation(model.id, { text: rested.value, name: called.value.trim(), roster: roster.of, id, ...more })
        told.value = ticket === asked ? answer : told.value
    } catch (error) {
        trouble.value = ticket === asked ? (error as Error).message : trouble.value
    }
})
/** Between how many, where the table says who there is. */
const between = computed(() => {
    const all = told.value?.members ?? []
    const some = all.length > 5 ? `${all.slice(0, 4).join(', ')} and ${all.length - 4} more` : all.join(', ')
    return all.length ? ` between ${counted(all.length, roster.name)}: ${some}` : ''
})
const { open, onChange } = useFileDialog({ accept: '.csv,.tsv,.txt', multiple: false, reset: true })
onChange(async (files) => {
    text.value = (await files?.[0]?.text()) ?? text.value
})
async function keep() {
    if (
        told.value &&
        (await model.together(told.value.edits as unknown as Edit[], `Related ${roster.name}s by “${called.value.trim()}”`))
    ) {
        emit('done')
    }
}
</script>

<template>
    <Dialog
        :visible="true"
        modal
        :header="known ? `Other pairs for “${known.name}”` : 'A relation of pairs'"
        :style="{ width: '640px', maxWidth: '94vw' }"
        @update:visible="$event || emit('done')"
    >
        <form class="made" @submit.prevent="keep">
            <p class="row">
                <label for="relation-name">It is called</label>
                <InputText id="relation-name" v-model="name" class="field" placeholder="waits for" maxlength="80" autofocus />
                <Button class="button" type="button" @click="open()"><Upload :size="15" :stroke-width="1.6" /> Choose a file</Button>
            </p>
            <p v-if="seconds.length > 1" class="row">
                <span>The first is a {{ roster.name }}, the second a</span>
                <ChoiceField v-model="second" label="Of which roster the second is" :choices="seconds" />
            </p>
            <label class="label" for="relation-pairs">
                A line for each pair: two names, and a weight if they differ; under a first line of names, further numbers of a pair, as
                <code>{{ name.trim() || 'waits for' }} days</code>. In a formula of the second<template v-if="second !== roster.of"
                    >, a {{ secondName }}</template
                >, <code>sum(…, {{ name.trim() || 'waits for' }})</code> looks at all the first{{
                    back.trim() ? `, and in one of the first sum(…, ${back.trim()}) at all the second` : ''
                }}.
            </label>
            <Textarea
                id="relation-pairs"
                v-model="text"
                class="cells"
                rows="8"
                spellcheck="false"
                :placeholder="'Tern, Kelpie\nIvy, Kelpie, 0.5'"
            />
            <p class="row">
                <label for="relation-back">From the other side it is called</label>
                <InputText id="relation-back" v-model="back" class="field" placeholder="nothing" maxlength="80" />
            </p>
            <p v-if="second === roster.of" class="row">
                <Checkbox v-model="lists" input-id="relation-lists" binary />
                <label for="relation-lists">
                    Those it names are all that there are; others go, and its first line names its columns.
                </label>
            </p>
            <p v-if="trouble" class="trouble" role="alert"><SaidText :text="trouble" /></p>
            <p v-if="told" role="status">
                {{ counted(told.pairs, 'pair') }}{{ between }}. <SaidText v-for="r in told.remarks" :key="r" :text="r" />
            </p>
            <footer>
                <p v-if="text.trim() && !name.trim()" class="soft">Say how the relation is called.</p>
                <Button class="button" type="button" @click="emit('done')">Cancel</Button>
                <Button class="button strong" type="submit" :disabled="!told">Keep the relation</Button>
            </footer>
        </form>
    </Dialog>
</template>

<style scoped src="./dialog.css"></style>
