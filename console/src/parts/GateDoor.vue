<script setup lang="ts">
/** A gate, as a door: its word stands beside it. */
defineProps<{ shut?: boolean }>()
</script>

<template>
  <svg viewBox="0 0 16 18" width="16" height="18" aria-hidden="true">
    <rect class="frame" x="2" y="1" width="12" height="16" />
    <template v-if="shut"><path class="leaf shut" d="M2 1h12v16H2z" /><circle class="knob" cx="11" cy="9.5" r="1.2" /></template>
    <path v-else class="leaf" d="M2 1l5 2v13l-5 1z" />
  </svg>
</template>

<style scoped>
.frame { fill: none; stroke: var(--ink-soft); }
.leaf { fill: var(--water); }
.leaf.shut { fill: var(--signal); }
.knob { fill: var(--sheet); }
</style>
