<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { attribute, count } from '../use/words'

/** Where sources say different things of one person: whom one believes is one key. */
type Conflict = Schemas['ConflictView']
const session = useSession()
const router = useRouter()
const kind = ref(0)
const conflicts = usePages<Conflict>((cursor, signal) => api<Page<Conflict>>(`/api/v1/conflicts${query({ cursor })}`, { signal }), [kind])
const { isBusy, trouble: refused, run } = useAct()
const at = ref(0)
const until = ref('')
const one = computed(() => conflicts.items.value?.[at.value] ?? null)
watch(conflicts.items, (items) => {
  if (items && at.value >= items.length) at.value = Math.max(0, items.length - 1)
})
const mayChoose = computed(() => session.may('edit-people'))
const holds = (said: { source: string; value: string }): boolean => said.value === one.value?.value

async function believe(source: string): Promise<void> {
  const conflict = one.value
  if (!conflict || isBusy.value || !mayChoose.value) return
  const done = await run(() => api<Schemas['ConflictChoiceView']>(`/api/v1/conflicts/${conflict.person}/${encodeURIComponent(conflict.attribute)}`, { method: 'PUT', body: { source, until: until.value || null } }))
  if (done?.changeSet) await router.push(`/now/change-sets/${done.changeSet}`)
  else if (done) await conflicts.reload()
}
function step(by: number): void {
  at.value = Math.min(Math.max(0, at.value + by), (conflicts.items.value?.length ?? 1) - 1)
}
function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLInputElement) return
  const said = one.value?.said[Number(event.key) - 1]
  if (said) void believe(said.source)
  else if (event.key === 'ArrowDown' || event.key === 'j') step(1)
  else if (event.key === 'ArrowUp' || event.key === 'k') step(-1)
  else return
  event.preventDefault()
}
</script>

<template>
  <PageHead title="Sources that do not agree" place="Who" to="/who">
    <template #facts><span v-if="conflicts.items.value" role="status">{{ conflicts.items.value.length ? `${count(conflicts.items.value.length, 'value waits', 'values wait')}${conflicts.hasMore.value ? ', and more follow' : ''}` : '' }}</span></template>
  </PageHead>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="conflicts.items.value" :trouble="conflicts.trouble.value" :is-loading="conflicts.isLoading.value" :is-empty="!conflicts.items.value?.length" @retry="conflicts.reload">
    <template #empty>All sources agree, or somebody said whom to believe.</template>
    <p class="soft">The strongest source’s value holds until somebody says otherwise.<template v-if="mayChoose"> Keys: <kbd>1</kbd> to <kbd>9</kbd> for the source of that number, <kbd>↓</kbd> and <kbd>↑</kbd> for the next value and the one before. What you say is remembered until one of them says something else.</template></p>
    <div class="desk" tabindex="0" role="group" aria-label="Values; answered with one key" @keydown="onKey">
      <ul class="plain list">
        <li v-for="(other, index) in conflicts.items.value ?? []" :key="`${other.person}-${other.attribute}`"><button type="button" :aria-current="index === at" @click="at = index"><bdi>{{ other.displayName }}</bdi> <span class="small soft">{{ attribute(other.attribute) }}</span></button></li>
        <li v-if="conflicts.hasMore.value"><Button label="Show more" size="small" severity="secondary" @click="conflicts.more" /></li>
      </ul>
      <div v-if="one">
        <p><RouterLink :to="`/who/${one.person}?tab=attributes`"><bdi>{{ one.displayName }}</bdi></RouterLink>: {{ attribute(one.attribute) }}<template v-if="one.holds === 'hand'">, set by hand to <bdi>{{ one.value }}</bdi></template></p>
        <table>
          <thead><tr><th><span class="unseen">Number</span></th><th>Source</th><th>Says</th><th>Since</th><th><span class="unseen">Acts</span></th></tr></thead>
          <tbody>
            <tr v-for="(said, index) in one.said" :key="said.source">
              <td><kbd>{{ index + 1 }}</kbd></td>
              <td>{{ said.source }}</td>
              <td :class="{ other: !holds(said) }"><bdi>{{ said.value }}</bdi><span v-if="holds(said)" class="small soft"> holds now</span></td>
              <td><WhenText :at="said.since" /></td>
              <td><Button v-if="mayChoose" size="small" severity="secondary" :label="holds(said) ? `Keep ${said.source}’s` : `See what believing ${said.source} changes`" :disabled="isBusy" @click="believe(said.source)" /></td>
            </tr>
          </tbody>
        </table>
        <label v-if="mayChoose" for="c-until" class="until">A weaker source’s value is set by hand, up to and with <input id="c-until" v-model="until" type="date" /><span class="small soft">empty for good</span></label>
      </div>
    </div>
  </StateView>
</template>

<style scoped>
.other { border-left: 3px solid var(--signal); padding-left: 0.5rem; }
.until { display: flex; flex-wrap: wrap; gap: 0.6rem; align-items: center; margin-top: 1rem; }
</style>
