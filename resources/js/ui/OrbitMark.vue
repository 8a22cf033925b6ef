<template>
    <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true">
        <path d="M20.2 9.2A8.4 8.4 0 1 0 21.4 13" fill="none" stroke="currentColor" stroke-width="2.4" stroke-linecap="round" />
        <circle cx="19.6" cy="7.8" r="2.7" fill="var(--ember)" />
    </svg>
</template>
