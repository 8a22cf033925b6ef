<script setup lang="ts">
/** What is printed in place of the page, as long as this is there: text on white paper, in any theme. */
</script>

<template>
    <Teleport to="body">
        <article class="printed-sheet" aria-hidden="true"><slot /></article>
    </Teleport>
</template>

<style>
.printed-sheet {
    display: none;
}
@media print {
    html:has(.printed-sheet),
    body:has(> .printed-sheet) {
        height: auto;
        overflow: visible;
        background: #fff;
    }
    body:has(> .printed-sheet) > :not(.printed-sheet) {
        display: none;
    }
    .printed-sheet {
        display: block;
        font: 11pt/1.45 var(--sans);
        color: #211e3b;
    }
    .printed-sheet :is(h1, h2, h3) {
        margin: 16pt 0 4pt;
        font-size: 12pt;
        break-after: avoid;
    }
    .printed-sheet h1 {
        margin-top: 0;
        font-size: 18pt;
    }
    .printed-sheet h2 {
        font-size: 14pt;
    }
    .printed-sheet :is(p, ul, ol, table) {
        margin: 0 0 6pt;
        border-collapse: collapse;
    }
    .printed-sheet :is(tr, li) {
        break-inside: avoid;
    }
    .printed-sheet :is(th, td) {
        padding: 2pt 10pt 2pt 0;
        border-bottom: 0.5pt solid #aaa6b8;
        text-align: left;
    }
}
</style>
