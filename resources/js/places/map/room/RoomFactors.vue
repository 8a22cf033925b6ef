<script setup lang="ts">
import { ref } from 'vue'
import { useRoom } from './useRoom'

/** Factors on slips: what plays a part, as people call it. */
const room = useRoom()
const draft = ref('')
const said = ref('')
async function add() {
    const text = draft.value.trim()
    if (text) {
        draft.value = ''
        said.value = await room.slip(text)
    }
}
</script>

<template>
    <div class="factors-step">
        <div>
            <InputText
                v-model="draft"
                class="typing"
                data-first
                aria-label="A factor"
                placeholder="What plays a part?"
                maxlength="240"
                autocomplete="off"
                @keydown.enter="add"
            />
            <p class="hint" role="status">
                {{ said
                }}<template v-if="!said"
                    ><kbd>Enter</kbd> one more · <b>mud = silt</b> the same · <b>at sea: waves, wind</b> a group</template
                >
            </p>
        </div>
        <div class="slips">
            <section v-for="g in room.groups" :key="g.name" :aria-label="g.name || 'Without a group'">
                <h2 v-if="g.name">{{ g.name }}</h2>
                <ul>
                    <li v-for="t in g.factors" :key="t.id">
                        {{ t.name }}
                        <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
                            <path d="M0 5H8C30 0 70 0 92 5H100M8 5C30 10 70 10 92 5" vector-effect="non-scaling-stroke" />
                        </svg>
                    </li>
                </ul>
            </section>
            <p v-if="!room.groups.length" class="hint">Nothing is named yet. Let everyone name one thing in turn.</p>
        </div>
    </div>
</template>

<style scoped>
.factors-step {
    display: grid;
    gap: 1em;
    grid-template-rows: auto 1fr;
    height: 100%;
}
.slips {
    overflow-y: auto;
}
h2 {
    margin: 0.5em 0 0.3em;
    font-size: 0.95em;
    color: var(--ink-soft);
}
ul {
    display: flex;
    flex-wrap: wrap;
    gap: 0.7em 1.4em;
    margin: 0;
    padding: 0;
    list-style: none;
}
li {
    position: relative;
    padding: 0 0.5em 0.35em;
}
svg {
    position: absolute;
    left: 0;
    bottom: 0;
    width: 100%;
    height: 9px;
}
path {
    fill: none;
    stroke: var(--line);
    stroke-width: 1.6;
}
</style>
