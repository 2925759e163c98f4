<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { number } from '../use/words'

/** What a set brings to each application: kinds of change down, where they stand in words. */
const props = defineProps<{ counts: Schemas['CountView'][] }>()
const ORDER = ['refused', 'blocked', 'halted', 'unsure', 'claimed', 'queued', 'proposed', 'seen', 'accepted', 'overtaken', 'withdrawn']
const rows = computed(() => {
  const all = new Map<string, { application: string; kind: string; total: number; states: Map<string, number> }>()
  for (const one of props.counts) {
    const key = `${one.application} ${one.kind}`
    const row = all.get(key) ?? { application: one.application, kind: one.kind, total: 0, states: new Map() }
    row.total += one.count
    row.states.set(one.state, (row.states.get(one.state) ?? 0) + one.count)
    all.set(key, row)
  }
  return [...all.values()].sort((a, b) => a.application.localeCompare(b.application) || a.kind.localeCompare(b.kind))
})
const sorted = (states: Map<string, number>): [string, number][] => [...states].sort((a, b) => ORDER.indexOf(a[0]) - ORDER.indexOf(b[0]))
</script>

<template>
  <table>
    <thead><tr><th>Application</th><th>Change</th><th class="number">How many</th><th>Where they stand</th></tr></thead>
    <tbody>
      <tr v-for="row in rows" :key="row.application + row.kind">
        <td><RouterLink :to="`/where/${encodeURIComponent(row.application)}`">{{ row.application }}</RouterLink></td>
        <td>{{ row.kind.replace('-', ' ') }}</td>
        <td class="number">{{ number(row.total) }}</td>
        <td><span v-for="[state, n] in sorted(row.states)" :key="state" class="state" :class="{ signal: state === 'refused' || state === 'blocked' || state === 'halted' }">{{ number(n) }} {{ state }}</span></td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table { max-width: 52rem; }
.state { margin-right: 1rem; white-space: nowrap; }
</style>
