<script setup lang="ts">
import KindIcon from '@/ui/KindIcon.vue'
import DimensionBeads from './DimensionBeads.vue'
import NameField from './NameField.vue'
import NodePlot from './NodePlot.vue'
import ProblemMark from './ProblemMark.vue'
import TalkMark from './TalkMark.vue'
import { useThing } from './useThing'

const { id, node = id, echo = false } = defineProps<{ id: string; node?: string; echo?: boolean }>()
const { said, view, naming, tint, plotted, gripped, thing, value, selected, problem, missing, waitsFor, shown, several } = useThing(
    () => id,
    () => node,
)
</script>

<template>
    <div
        v-if="thing"
        class="capsule"
        :class="[thing.kind, { selected, missing, echo }]"
        :style="tint"
        :title="`${thing.name}${shown ? ` = ${shown}` : ''}`"
        @dblclick.stop="view.naming = id"
    >
        <button
            v-if="thing.kind === 'parameter'"
            type="button"
            class="knob"
            tabindex="-1"
            :aria-label="`Turn ${thing.name}`"
            title="Turn it here"
            @click.stop="
                () => {
                    view.select(node)
                    view.saying = id
                }
            "
            @dblclick.stop
        >
            <KindIcon :kind="thing.kind" :size="18" />
        </button>
        <KindIcon v-else-if="thing.kind === 'curve' || thing.kind === 'series'" :kind="thing.kind" :size="17" class="mark" />
        <span class="name thing-name">{{ thing.name }}</span>
        <small v-if="(value !== undefined || several !== undefined) && !missing && !waitsFor" class="value">{{ shown }}</small>
        <i v-if="gripped" class="plum-rail" title="Taken by hand" />
        <NodePlot v-if="plotted && !echo" :thing="thing" class="plot" />
        <ProblemMark v-if="problem && !echo" :problem="problem" />
        <TalkMark v-if="said && !echo" :count="said" />
        <DimensionBeads v-if="thing.along" :thing="thing" />
        <NameField v-if="naming" :thing="thing" />
    </div>
</template>

<style scoped>
.capsule {
    position: relative;
    display: flex;
    align-items: center;
    justify-content: center;
    gap: 7px;
    width: 100%;
    height: 28px;
    padding: 0 12px;
    border: 1.2px solid var(--line);
    border-radius: 14px;
    background: var(--tint, var(--card));
}
.plum-rail {
    position: absolute;
    left: 12px;
    right: 12px;
    bottom: 2px;
}
.echo::after {
    content: '';
    position: absolute;
    left: 12px;
    right: 12px;
    top: -5px;
    height: 1.2px;
    background: var(--line);
}
.parameter,
.series,
.curve {
    padding-left: 7px;
}
.curve {
    border-radius: 9px;
}
.mark {
    flex: none;
}
.missing {
    border-style: dashed;
}
.selected::before {
    content: '';
    pointer-events: none;
    position: absolute;
    inset: -6px;
    border: 2px solid var(--ember);
    border-radius: 19px;
}
.knob {
    flex: none;
    line-height: 0;
    border-radius: 50%;
    transition: transform var(--quick);
}
.knob:hover {
    transform: rotate(40deg);
}
.name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.value {
    position: absolute;
    top: 28px;
    left: 50%;
    transform: translateX(-50%);
    font-size: 12px;
    color: var(--ink-soft);
    white-space: nowrap;
    padding: 0 3px;
    border-radius: 4px;
    background: color-mix(in srgb, var(--paper) 78%, transparent);
}
.plot {
    position: absolute;
    top: 45px;
    left: 50%;
    transform: translateX(-50%);
}
</style>
