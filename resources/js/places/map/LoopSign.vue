<script setup lang="ts">
/** What a loop does to what is pushed: a course that bends away, one that comes back, one that is open. */
defineProps<{ sign: '+' | '-' | '?' }>()
</script>

<template>
    <svg class="loop-sign" width="20" height="16" viewBox="0 0 20 16" aria-hidden="true">
        <path d="M1 14.5H19" class="ground" />
        <path v-if="sign === '+'" d="M2 12C9 12 14 9 17 2" />
        <path v-else-if="sign === '-'" d="M2 2C5 9 10 12 18 12" />
        <text v-else x="10" y="7" text-anchor="middle" dominant-baseline="central">?</text>
    </svg>
</template>

<style scoped>
.loop-sign {
    flex: none;
    vertical-align: -2px;
}
path {
    fill: none;
    stroke: currentcolor;
    stroke-width: 1.6;
    stroke-linecap: round;
}
.ground {
    stroke-width: 1.2;
}
text {
    font-size: 12px;
    font-weight: 700;
    fill: currentcolor;
}
</style>
