<script setup lang="ts">
import ExportLog from './shell/ExportLog.vue'
import NoticeStack from './shell/NoticeStack.vue'
import { usePage } from './stores/page'

usePage()
</script>

<template>
    <RouterView />
    <NoticeStack />
    <ExportLog />
</template>
