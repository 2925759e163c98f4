<script setup lang="ts">
import ProgressBar from 'primevue/progressbar'
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { number } from '../use/words'

/** How far a released set has come. */
const props = defineProps<{ set: Schemas['ChangeSetView'] }>()
const sum = (...states: string[]): number => props.set.counts.filter((one) => states.includes(one.state)).reduce((all, one) => all + one.count, 0)
const all = computed(() => sum('queued', 'claimed', 'unsure', 'halted', 'seen', 'accepted', 'refused', 'blocked', 'overtaken'))
const over = computed(() => sum('seen', 'accepted', 'refused', 'blocked', 'overtaken'))
const halted = computed(() => sum('halted'))
const failed = computed(() => sum('refused', 'blocked'))
</script>

<template>
  <div v-if="all" class="follow" role="status">
    <ProgressBar :value="Math.round((over / all) * 100)" :aria-label="`${over} of ${all} changes are over`" :show-value="false" />
    <span>{{ number(over) }} of {{ number(all) }} over<template v-if="failed">, <span class="signal">{{ number(failed) }} failed</span></template><template v-if="halted">, <span class="signal">{{ number(halted) }} stopped before their turn</span></template></span>
  </div>
</template>

<style scoped>
.follow { display: grid; grid-template-columns: minmax(10rem, 30rem) auto; gap: 1rem; align-items: center; margin: 0.6rem 0; justify-content: start; }
</style>
