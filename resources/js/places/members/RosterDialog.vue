<script setup lang="ts">
import { refDebounced, useFileDialog } from '@vueuse/core'
import { Upload } from '@lucide/vue'
import Dialog from 'primevue/dialog'
import { computed, ref, watch } from 'vue'
import { members as api } from '@/api/members'
import type { Edit, RosterTable } from '@/api/types'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { newId } from '@/ui/ids'
import { counted } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'

/**
 * A table with a line for each member becomes a roster, or the members of one that there is: what goes where is told before anything is
 * kept.
 */
const { roster = undefined } = defineProps<{ /** One that gets other members. */ roster?: { of: string; name: string } }>()
const emit = defineEmits<{ done: [] }>()
const model = useModel()
const members = useMembers()
const id = newId()
const text = ref('')
const name = ref(roster?.name ?? '')
const told = ref<RosterTable | null>(null)
const trouble = ref('')
const rested = refDebounced(text, 250)
const called = refDebounced(name, 250)
let asked = 0
watch([rested, called], async () => {
    const ticket = ++asked
    if (!rested.value.trim() || !called.value.trim()) {
        told.value = null
        trouble.value = ''
        return
    }
    try {
        const answer = await api.read(model.id, {
            text: rested.value,
            id,
            ...(roster ? { roster: roster.of } : { name: called.value.trim() }),
        })
        if (ticket === asked) {
            told.value = answer
            trouble.value = ''
        }
    } catch (error) {
        if (ticket === asked) {
            told.value = null
            trouble.value = (error as Error).message
        }
    }
})
const { open, onChange } = useFileDialog({ accept: '.csv,.tsv,.txt', multiple: false, reset: true })
onChange(async (files) => {
    const file = files?.[0]
    if (file) {
        text.value = await file.text()
        // Many files are called by what they list.
        name.value ||= file.name.replace(/\.[^.]*$/, '').replace(/s$/, '')
    }
})
const first = computed(() => told.value?.members.slice(0, 3).join(', ') ?? '')
async function keep() {
    if (!told.value) {
        return
    }
    const many = counted(told.value.members.length, called.value.trim())
    const words = roster ? `Gave the roster another list: ${many}` : `Made a roster of ${many}`
    if (await model.together(told.value.edits as unknown as Edit[], words)) {
        members.wanted = roster ? members.wanted : `${id}-roster`
        emit('done')
    }
}
</script>

<template>
    <Dialog
        :visible="true"
        modal
        :header="roster ? `Another list for ${roster.name}` : 'A roster of a table'"
        :style="{ width: '720px', maxWidth: '94vw' }"
        @update:visible="$event || emit('done')"
    >
        <form class="made" @submit.prevent="keep">
            <p class="row">
                <label v-if="!roster" for="member-name">One of them is a</label>
                <InputText v-if="!roster" id="member-name" v-model="name" class="field" placeholder="boat" maxlength="80" autofocus />
                <Button class="button" type="button" @click="open()"><Upload :size="15" :stroke-width="1.6" /> Choose a file</Button>
            </p>
            <label class="label" for="member-table">
                {{
                    roster
                        ? 'A line for each, its name first. Columns that are called as what each has are that; the model stays as it is.'
                        : 'A line for each, its name first. Numbers become what each has, columns of a few words say where it belongs.'
                }}
            </label>
            <Textarea
                id="member-table"
                v-model="text"
                class="cells"
                rows="7"
                spellcheck="false"
                :placeholder="'name, built, length [m], home harbour\nSlack Water, 1998, 7.8, Lee\nKelpie, 1996, 8.1, North cove'"
            />
            <p v-if="trouble" class="trouble" role="alert"><SaidText :text="trouble" /></p>
            <dl v-if="told">
                <dt>{{ counted(told.members.length, 'member') }}</dt>
                <dd>{{ first }}{{ told.members.length > 3 ? ' …' : '' }}</dd>
                <dt>Each has</dt>
                <dd>{{ told.attributes.join(', ') || 'no numbers yet' }}</dd>
                <template v-if="told.places.length">
                    <dt>It belongs by</dt>
                    <dd>{{ told.places.join(', ') }}</dd>
                </template>
                <template v-if="told.remarks.length">
                    <dt>Left out</dt>
                    <dd><SaidText v-for="r in told.remarks" :key="r" :text="r" /></dd>
                </template>
            </dl>
            <footer>
                <p v-if="text.trim() && !name.trim()" class="soft">Say what one of them is called.</p>
                <Button class="button" type="button" @click="emit('done')">Cancel</Button>
                <Button class="button strong" type="submit" :disabled="!told">{{ roster ? 'Take this list' : 'Make the roster' }}</Button>
            </footer>
        </form>
    </Dialog>
</template>

<style scoped src="./dialog.css"></style>
