<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, watch } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import BothPeople from '../parts/BothPeople.vue'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import { usePages } from '../use/pages'

/** Records that may be one person, one pair after the other, each answered with one key. */
const kind = ref(0)
const pairs = usePages<Schemas['DuplicateView']>((cursor, signal) => api<Page<Schemas['DuplicateView']>>(`/api/v1/people/duplicates${query({ cursor })}`, { signal }), [kind])
const at = ref(0)
const pair = computed(() => pairs.items.value?.[at.value] ?? null)
const shown = ref<InstanceType<typeof BothPeople> | null>(null)
watch(pairs.items, (items) => {
  if (items && at.value >= items.length) at.value = Math.max(0, items.length - 1)
})
function step(by: number): void {
  at.value = Math.min(Math.max(0, at.value + by), (pairs.items.value?.length ?? 1) - 1)
}
function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '1') void shown.value?.merge()
  else if (event.key === '2') void shown.value?.apart()
  else if (event.key === 'ArrowDown' || event.key === 'j') step(1)
  else if (event.key === 'ArrowUp' || event.key === 'k') step(-1)
  else return
  event.preventDefault()
}
</script>

<template>
  <PageHead title="Who may be one" place="Who" to="/who"><template #facts>Records that are much alike, from all sources</template></PageHead>
  <StateView :data="pairs.items.value" :trouble="pairs.trouble.value" :is-loading="pairs.isLoading.value" :is-empty="!pairs.items.value?.length && !pairs.hasMore.value" @retry="pairs.reload">
    <template #empty>No two records are much alike.</template>
    <p class="soft">Keys: <kbd>1</kbd> they are one, <kbd>2</kbd> they are two and nobody is asked again, <kbd>↓</kbd> and <kbd>↑</kbd> for the next pair and the one before.</p>
    <div class="desk" tabindex="0" role="group" aria-label="Pairs; answered with one key" @keydown="onKey">
      <ul class="plain list">
        <li v-for="(one, index) in pairs.items.value ?? []" :key="`${one.id}-${one.alike.id}`"><button type="button" :aria-current="index === at" @click="at = index"><bdi>{{ one.displayName }}</bdi> <span class="small soft">and <bdi>{{ one.alike.displayName }}</bdi>, {{ one.alike.score }} of 100</span></button></li>
        <li v-if="pairs.hasMore.value"><Button label="Look further" size="small" severity="secondary" :loading="pairs.isLoading.value" @click="pairs.more" /></li>
      </ul>
      <BothPeople v-if="pair" :id="pair.id" :key="`${pair.id}-${pair.alike.id}`" ref="shown" :name="pair.displayName" :alike="pair.alike" @apart="pairs.reload" />
      <p v-else class="soft">Nobody so far; not all were looked at.</p>
    </div>
  </StateView>
</template>
