<script setup lang="ts">
import { type Schemas } from '../api/client'
import { capital, day, sentence } from '../use/words'

/** A departure's steps in their order: what is done, what is next, and its end. */
defineProps<{ steps: Schemas['DepartureStepView'][]; short?: boolean }>()
const NAMES: Record<string, string> = {
  'last day': 'Last day', off: 'Off', 'ways in': 'Other ways in', reply: 'Reply', return: 'Coming back?', stock: 'Stock',
  handover: 'Handover', references: 'References', waiting: 'Waiting', approval: 'Second person', restore: 'Restorable', removal: 'Removal', forgetting: 'Forgetting'
}
const STATES: Record<string, string> = { done: 'done', 'under way': 'goes on by itself', waits: 'needs somebody', ahead: 'ahead' }
</script>

<template>
  <ol class="line" :class="{ short }">
    <li v-for="step in steps" :key="step.name" :class="step.state.replace(' ', '-')" :title="short ? `${NAMES[step.name] ?? capital(step.name)}${step.day ? `, ${day(step.day)}` : ''}: ${STATES[step.state] ?? step.state}. ${sentence(step.words)}` : undefined">
      <span class="vessel" aria-hidden="true" />
      <template v-if="short"><span class="unseen">{{ NAMES[step.name] ?? capital(step.name) }}: {{ STATES[step.state] ?? step.state }}</span></template>
      <template v-else>
        <strong>{{ NAMES[step.name] ?? capital(step.name) }}</strong>
        <span class="day">{{ step.day ? day(step.day) : '' }}</span>
        <span class="small" :class="step.state === 'waits' ? 'signal' : 'soft'">{{ step.state === 'waits' || step.state === 'done' ? sentence(step.words) : `${capital(STATES[step.state] ?? step.state)}. ${sentence(step.words)}` }}</span>
      </template>
    </li>
  </ol>
</template>

<style scoped>
.line { list-style: none; margin: 0.4rem 0 1rem; padding: 0; display: grid; grid-auto-flow: column; grid-auto-columns: minmax(6.5rem, 1fr); overflow-x: auto; }
.line li { position: relative; display: grid; align-content: start; gap: 0.1rem; padding: 1.5rem 0.9rem 0 0; font-size: 0.92rem; }
.line li::before { content: ''; position: absolute; top: 0.55rem; left: 0; right: 0; border-top: 2px solid var(--line-strong); }
.line li.done::before { border-color: var(--water); }
.vessel { position: absolute; top: 0; left: 0; width: 1.1rem; height: 1.1rem; background: var(--paper); border: 2px solid var(--line-strong); border-top: 0; border-radius: 0 0 4px 4px; }
.done .vessel { background: var(--water); border-color: var(--water); }
.under-way .vessel { border-color: var(--water); background: linear-gradient(to top, var(--water) 45%, var(--paper) 45%); }
.waits .vessel { border-color: var(--signal); background: var(--signal-soft); }
.day { font-variant-numeric: tabular-nums; }
.short { grid-auto-columns: 1.6rem; margin: 0; overflow: visible; }
.short li { padding: 0; height: 1.1rem; }
</style>
