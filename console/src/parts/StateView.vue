<script setup lang="ts" generic="T">
import Skeleton from 'primevue/skeleton'
import Button from 'primevue/button'
import type { Trouble } from '../api/client'
import ProblemNote from './ProblemNote.vue'

/** One view in its four states: loading, in trouble, empty (the slot says what next), and its data. */
defineProps<{
  data: T | null
  trouble: Trouble | null
  isLoading: boolean
  isEmpty?: boolean
  rows?: number
}>()
defineEmits<{ retry: [] }>()
defineSlots<{ default(slot: { data: T }): unknown; empty(): unknown }>()
</script>

<template>
  <div v-if="trouble" class="trouble">
    <ProblemNote :problems="trouble.problems" />
    <Button v-if="data === null" label="Try again" severity="secondary" @click="$emit('retry')" />
  </div>
  <div v-if="data === null && isLoading && !trouble" class="loading" role="status">
    <span class="unseen">Loading</span>
    <Skeleton v-for="i in rows ?? 4" :key="i" height="1.4rem" />
  </div>
  <div v-else-if="data !== null && isEmpty" class="empty"><slot name="empty" /></div>
  <slot v-else-if="data !== null" :data="data" />
</template>

<style scoped>
.loading { display: grid; gap: 0.6rem; padding: 0.6rem 0; max-width: 60rem; }
.empty { padding: 1rem 0; color: var(--ink-soft); }
</style>
