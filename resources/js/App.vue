<script setup lang="ts">
import NoticeStack from './shell/NoticeStack.vue'
import { useView } from './stores/view'

useView()
</script>

<template>
    <RouterView />
    <NoticeStack />
</template>
