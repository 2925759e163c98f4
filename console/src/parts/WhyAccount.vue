<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { attribute, count } from '../use/words'
import LevelMark from './LevelMark.vue'

/** Why somebody has an account in one application, or has none; and the ground of each value. */
const props = defineProps<{ why: Schemas['WhyView'] }>()
const differing = computed(() => props.why.values.filter((one) => one.is !== null && one.is !== one.should).length)
/** Groups of which somebody said what they let one do. */
const opening = computed(() => props.why.groups.filter((one) => one.held && (one.opens || one.risk)))
</script>

<template>
  <section>
    <h2>
      <RouterLink :to="`/where/${encodeURIComponent(why.application)}`">{{ why.application }}</RouterLink>
      <LevelMark v-if="why.account" :level="why.account.level" :differs="differing > 0" />
      <span v-else class="soft">no account</span>
    </h2>
    <p>{{ why.because }} <template v-if="why.condition">Its condition: <code>{{ why.condition }}</code></template></p>
    <p v-if="opening.length" class="small">Lets them: <template v-for="(one, i) in opening" :key="one.group"><template v-if="i">; </template><bdi :class="{ signal: one.risk && one.risk !== 'low' }">{{ one.opens ?? `${one.risk} risk` }}</bdi> <span class="soft">(<bdi>{{ one.group }}</bdi><template v-if="one.through">, through <bdi>{{ one.through }}</bdi></template>)</span></template></p>
    <details v-if="why.values.length || why.groups.length || why.seats.length">
      <summary>{{ count(why.values.length, 'value', 'values') }}{{ why.groups.length ? `, ${count(why.groups.length, 'group', 'groups')}` : '' }}{{ why.seats.length ? `, ${count(why.seats.length, 'seat', 'seats')}` : '' }}, each with its ground</summary>
      <div class="scroll">
        <table class="small">
          <thead><tr><th>Attribute</th><th>Should be</th><th>Is</th><th>By</th><th>From</th></tr></thead>
          <tbody>
            <tr v-for="one in why.values" :key="one.attribute">
              <td>{{ attribute(one.attribute) }}</td><td><bdi>{{ one.should || 'nothing' }}</bdi></td>
              <td :class="{ signal: one.is !== null && one.is !== one.should }"><bdi>{{ one.is === null ? 'no account yet' : one.is === one.should ? 'the same' : one.is || 'nothing' }}</bdi></td>
              <td>{{ one.ground }}</td><td><code v-if="one.expression">{{ one.expression }}</code></td>
            </tr>
            <tr v-for="one in why.seats" :key="`s-${one.group}`"><td>Seat</td><td>{{ one.ground ? one.group : 'not by Ebb' }}</td><td>{{ one.held ? one.group : 'not taken yet' }}</td><td colspan="2">{{ one.ground ?? 'found in the application' }}</td></tr>
            <tr v-for="one in why.groups" :key="`g-${one.group}`"><td>Group</td><td>{{ one.ground ? one.group : 'not by Ebb' }}</td><td>{{ one.held ? one.group : 'not in it yet' }}</td><td colspan="2"><template v-if="one.through">through <bdi>{{ one.through }}</bdi>, which is within it: </template>{{ one.ground ?? 'found in the application' }}</td></tr>
          </tbody>
        </table>
      </div>
    </details>
  </section>
</template>

<style scoped>
section { border-left: 3px solid var(--line); padding-left: 0.9rem; margin-bottom: 0.9rem; }
h2 { margin: 0; display: flex; gap: 0.8rem; align-items: center; }
p, td { overflow-wrap: anywhere; }
td:first-child, th { overflow-wrap: normal; }
summary { cursor: pointer; color: var(--water); }
</style>
