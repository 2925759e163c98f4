<script setup lang="ts">
import { computed } from 'vue'

/** The one sequence every file goes through, and where this one stands in it. */
const props = defineProps<{ at: 'file' | 'mapping' | 'check' | 'effect' | 'release' | 'seen' }>()
const STEPS = [['file', 'File'], ['mapping', 'Mapping'], ['check', 'Check'], ['effect', 'Effect'], ['release', 'Release'], ['seen', 'Seen']] as const
const now = computed(() => STEPS.findIndex(([value]) => value === props.at))
</script>

<template>
  <ol class="steps" aria-label="How far it has come">
    <li v-for="([value, words], i) in STEPS" :key="value" :class="{ past: i < now, now: i === now }" :aria-current="i === now ? 'step' : undefined">{{ words }}</li>
  </ol>
</template>

<style scoped>
.steps { display: flex; flex-wrap: wrap; list-style: none; padding: 0; margin: 0.4rem 0 1rem; max-width: 44rem; }
li { flex: 1; padding: 0 0.4rem 0.25rem 0; color: var(--ink-soft); font-size: 0.87rem; border-bottom: 3px solid var(--line); }
li.past { border-color: var(--water); }
li.now { color: var(--ink); font-weight: 600; border-color: var(--water); background: linear-gradient(to top, var(--water-soft), transparent 70%); }
</style>
