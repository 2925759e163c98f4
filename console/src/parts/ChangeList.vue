<script setup lang="ts">
import type { Schemas } from '../api/client'
import { attribute } from '../use/words'
import WireNotes from './WireNotes.vue'

/** What happens to each person, application by application. */
defineProps<{ outcomes: Schemas['OutcomeView'][]; chooses?: boolean }>()
const chosen = defineModel<number[]>('chosen', { default: () => [] })
const isOpen = (one: Schemas['OutcomeView']): boolean => one.changes.some((change) => change.state === 'proposed')
const MARKS: Record<string, string> = {
  proposed: '○', queued: '◔', halted: '◌', claimed: '◑', unsure: '◑', seen: '●', accepted: '●', refused: '✕', blocked: '✕', overtaken: '–', withdrawn: '–'
}
const isBad = (state: string): boolean => state === 'refused' || state === 'blocked'
</script>

<template>
  <table>
    <thead><tr><th>Person</th><th>What happens</th><th>Outcome</th></tr></thead>
    <tbody v-for="one in outcomes" :key="one.person">
      <tr v-for="(change, i) in one.changes" :key="change.id">
        <td v-if="i === 0" :rowspan="one.changes.length" class="who">
          <input v-if="chooses && isOpen(one)" v-model="chosen" type="checkbox" :value="one.person" :aria-label="`Choose ${one.displayName}`" />
          <RouterLink v-if="one.known" :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink>
          <template v-else><bdi>{{ one.displayName }}</bdi> <span class="soft small">new</span></template>
        </td>
        <td>
          <details v-if="change.edits.length">
            <summary>{{ change.application }}: {{ change.what }}</summary>
            <dl class="small">
              <template v-for="edit in change.edits" :key="edit.attribute">
                <dt>{{ attribute(edit.attribute) }}</dt>
                <dd><template v-if="edit.before"><del><bdi>{{ edit.before }}</bdi></del> → </template><bdi>{{ edit.after || 'nothing' }}</bdi> <span class="soft">by {{ edit.ground }}</span></dd>
              </template>
            </dl>
          </details>
          <template v-else>{{ change.application }}: {{ change.what }}</template>
          <WireNotes v-if="change.askedAt" :change="change.id" />
        </td>
        <td :class="{ signal: isBad(change.state) }">
          <span aria-hidden="true">{{ MARKS[change.state] }}</span> {{ change.state }}
          <p v-if="change.problem" class="small why">{{ change.problem.what }} {{ change.problem.remedy }}</p>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.who { width: 24%; font-weight: 600; }
tbody { border-bottom: 1px solid var(--line-strong); }
tbody tr:hover { background: none; }
td:last-child { width: 28%; }
summary { cursor: pointer; }
dl { margin: 0.3rem 0 0.3rem 1rem; }
.why { font-weight: 400; color: var(--ink); }
</style>
