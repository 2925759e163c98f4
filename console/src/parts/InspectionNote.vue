<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'

/** What a look at an application found: what works, what one has to live with, what can be filled. */
const props = defineProps<{ found: Schemas['InspectionView'] }>()
const amiss = computed(() => props.found.tried.filter((one) => one.problem))
const missing = computed(() => props.found.parts.filter((one) => !one.isOffered))
const ahead = computed(() => props.found.aheadSeconds ?? 0)
const words = (part: string): string => part.replaceAll('-', ' ')
</script>

<template>
  <section aria-label="What was found">
    <ul class="plain">
      <li v-for="one in found.tried" :key="one.what">
        <span :class="{ signal: one.problem }" aria-hidden="true">{{ one.problem ? '✕' : '●' }}</span>
        Ebb {{ one.problem ? 'cannot' : 'can' }} {{ one.what }}<template v-if="one.without">: {{ one.without }}</template>
      </li>
    </ul>
    <ProblemNote v-for="one in amiss" :key="one.what" :problems="[one.problem!]" />
    <p v-if="Math.abs(ahead) > 1" class="signal">Its clock is {{ Math.abs(ahead) }} seconds {{ ahead > 0 ? 'ahead of' : 'behind' }} ours.</p>
    <template v-if="missing.length">
      <h3>What it cannot do, and what that means</h3>
      <dl><template v-for="one in missing" :key="one.part"><dt>{{ words(one.part) }}</dt><dd>{{ one.without }}</dd></template></dl>
    </template>
    <details>
      <summary>{{ found.attributes.length }} attributes can be filled</summary>
      <table class="small">
        <thead><tr><th>Attribute</th><th>A rule could fill it by</th><th>Takes for the same</th></tr></thead>
        <tbody>
          <tr v-for="one in found.attributes" :key="one.name">
            <td>{{ one.name }} <span v-if="one.isRequired" class="soft">required</span></td>
            <td><code v-if="one.suggested">{{ one.suggested }}</code><span v-else class="soft">nothing here is called so</span></td>
            <td>{{ one.equality }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </section>
</template>

<style scoped>
summary { cursor: pointer; }
ul { margin: 0.8rem 0; }
</style>
