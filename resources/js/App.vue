<script setup lang="ts">
import ExportLog from './shell/ExportLog.vue'
import NoticeStack from './shell/NoticeStack.vue'
import { useView } from './stores/view'

useView()
</script>

<template>
    <RouterView />
    <NoticeStack />
    <ExportLog />
</template>
