<script setup lang="ts">
import Button from 'primevue/button'
import { computed, useId } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { attribute as named, count, number } from '../use/words'

/** Two applications, or a source and an application: who is on both sides, and where they differ. */
const route = useRoute()
const router = useRouter()
const id = useId()
const asked = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
const left = computed(() => asked('left'))
const right = computed(() => asked('right'))
const part = computed(() => asked('part') || 'differs')
const attribute = computed(() => asked('attribute'))
const sides = useResource(async (signal) => {
  const [applications, sources] = await Promise.all([
    api<Page<Schemas['ApplicationView']>>('/api/v1/applications', { signal }),
    api<Page<Schemas['SourceView']>>('/api/v1/sources', { signal })
  ])
  return { applications: applications.items.map((one) => one.name), sources: sources.items.map((one) => one.name).filter((one) => one !== 'hand') }
})
const found = useResource(async (signal) => (left.value && right.value ? api<Schemas['ComparisonView']>(`/api/v1/comparison${query({ left: left.value, right: right.value })}`, { signal }) : null), [left, right])
const people = usePages<Schemas['ComparedView']>(
  async (cursor, signal) => (left.value && right.value ? api(`/api/v1/comparison/people${query({ left: left.value, right: right.value, part: part.value, attribute: attribute.value || null, cursor })}`, { signal }) : { items: [], next: null, total: null, moreThan: null }),
  [left, right, part, attribute])
const PARTS = computed(() => [
  { value: 'differs', words: 'Values differ', count: null },
  { value: 'left-only', words: `In ${left.value} alone`, count: found.data.value?.leftOnly },
  { value: 'right-only', words: `In ${right.value} alone`, count: found.data.value?.rightOnly },
  { value: 'both', words: 'In both', count: found.data.value?.both }
])
function show(change: Record<string, string | undefined>): void {
  void router.replace({ query: { ...route.query, ...change } })
}

const WIDTH = 880
const bars = computed(() => {
  const all = found.data.value
  if (!all) return []
  const total = Math.max(1, all.leftOnly + all.both + all.rightOnly)
  const widths = [all.leftOnly, all.both, all.rightOnly].map((one) => (one / total) * WIDTH)
  return [
    { key: 'left', x: 0, width: widths[0]! },
    { key: 'both', x: widths[0]!, width: widths[1]! },
    { key: 'right', x: widths[0]! + widths[1]!, width: widths[2]! }
  ]
})
const share = (one: Schemas['AgreementView'], what: number): number => (what / Math.max(1, one.same + one.differ + one.leftEmpty + one.rightEmpty)) * 100
</script>

<template>
  <PageHead title="Side by side" place="Where" to="/where"><template #facts>Two applications, or what a source says and what an application holds</template></PageHead>
  <StateView :data="sides.data.value" :trouble="sides.trouble.value" :is-loading="sides.isLoading.value" @retry="sides.reload">
    <form v-if="sides.data.value" class="acts" @submit.prevent>
      <template v-for="side in ['left', 'right'] as const" :key="side">
        <label :for="`${id}-${side}`">{{ side === 'left' ? 'Compare' : 'with' }}</label>
        <select :id="`${id}-${side}`" :value="side === 'left' ? left : right" @change="show({ [side]: ($event.target as HTMLSelectElement).value, attribute: undefined })">
          <option value="" disabled>choose</option>
          <optgroup label="Applications"><option v-for="one in sides.data.value.applications" :key="one" :value="one">{{ one }}</option></optgroup>
          <optgroup label="Sources"><option v-for="one in sides.data.value.sources" :key="one" :value="one">{{ one }}</option></optgroup>
        </select>
      </template>
    </form>
  </StateView>
  <p v-if="!left || !right" class="soft">Choose two sides.</p>
  <template v-else>
    <StateView :data="found.data.value" :trouble="found.trouble.value" :is-loading="found.isLoading.value" @retry="found.reload">
      <template v-if="found.data.value" #default>
        <figure>
          <svg :viewBox="`0 0 ${WIDTH} 46`" role="img" :aria-label="`${number(found.data.value.leftOnly)} in ${left} alone, ${number(found.data.value.both)} in both, ${number(found.data.value.rightOnly)} in ${right} alone`">
            <path v-for="bar in bars" v-show="bar.width > 0" :key="bar.key" :class="bar.key" :d="`M${bar.x} 2 h${bar.width} v${bar.key === 'both' ? 40 : 26} q${-bar.width / 2} 6 ${-bar.width} 0 z`" />
          </svg>
          <figcaption>
            <span class="key left" /> <strong>{{ number(found.data.value.leftOnly) }}</strong> in {{ left }} alone
            <span class="key both" /> <strong>{{ number(found.data.value.both) }}</strong> in both
            <span class="key right" /> <strong>{{ number(found.data.value.rightOnly) }}</strong> in {{ right }} alone
          </figcaption>
        </figure>
        <p v-if="found.data.value.leftOfNobody || found.data.value.rightOfNobody">Besides, of nobody who is known: {{ count(found.data.value.leftOfNobody, 'account', 'accounts') }} in {{ left }}, {{ number(found.data.value.rightOfNobody) }} in {{ right }}; {{ number(found.data.value.alikeOfNobody) }} of them with one login in both. <RouterLink v-if="found.data.value.leftOfNobody" :to="`/where/${encodeURIComponent(left)}/unmatched`">Adopt those of {{ left }}</RouterLink> <RouterLink v-if="found.data.value.rightOfNobody" :to="`/where/${encodeURIComponent(right)}/unmatched`">Adopt those of {{ right }}</RouterLink></p>
        <h2>How far they agree about those in both</h2>
        <p v-if="!found.data.value.attributes.length" class="soft">They have no attribute in common.</p>
        <table v-else class="agreement">
          <thead><tr><th>Value</th><th>Agreement</th><th class="number">Same</th><th class="number">Differ</th><th class="number">Not in {{ left }}</th><th class="number">Not in {{ right }}</th></tr></thead>
          <tbody>
            <tr v-for="one in found.data.value.attributes" :key="one.attribute">
              <td>{{ named(one.attribute) }}</td>
              <td class="bar"><span class="track" aria-hidden="true"><span class="same" :style="{ width: `${share(one, one.same)}%` }" /><span v-if="one.differ" class="differ" :style="{ width: `${share(one, one.differ)}%` }" /></span></td>
              <td class="number">{{ number(one.same) }}</td>
              <td class="number"><button v-if="one.differ" type="button" class="open" @click="show({ part: 'differs', attribute: one.attribute })">{{ number(one.differ) }}</button><template v-else>0</template></td>
              <td class="number">{{ number(one.leftEmpty) }}</td><td class="number">{{ number(one.rightEmpty) }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </StateView>
    <h2>Person by person</h2>
    <div class="switch" role="group" aria-label="Which people">
      <button v-for="one in PARTS" :key="one.value" type="button" :aria-pressed="part === one.value" @click="show({ part: one.value, attribute: undefined })">{{ one.words }} <strong v-if="one.count !== null && one.count !== undefined">{{ number(one.count) }}</strong></button>
    </div>
    <p v-if="attribute" class="soft">Only where {{ named(attribute) }} differs. <button type="button" class="open" @click="show({ attribute: undefined })">Any value</button></p>
    <StateView :data="people.items.value" :trouble="people.trouble.value" :is-loading="people.isLoading.value" :is-empty="!people.items.value?.length && !people.hasMore.value" @retry="people.reload">
      <template #empty>Nobody.</template>
      <table>
        <thead><tr><th>Person</th><th>In {{ left }}</th><th>In {{ right }}</th><th>What differs</th></tr></thead>
        <tbody>
          <tr v-for="one in people.items.value ?? []" :key="one.person">
            <td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td>
            <td><bdi v-if="one.left">{{ one.left }}</bdi><span v-else class="soft">no</span></td>
            <td><bdi v-if="one.right">{{ one.right }}</bdi><span v-else class="soft">no</span></td>
            <td><ul class="plain"><li v-for="value in one.differing" :key="value.attribute">{{ named(value.attribute) }}: <bdi>{{ value.left }}</bdi> <span class="soft">in {{ left }},</span> <bdi>{{ value.right }}</bdi> <span class="soft">in {{ right }}</span></li></ul></td>
          </tr>
        </tbody>
      </table>
      <Button v-if="people.hasMore.value" :label="people.items.value?.length ? 'Show more' : 'Look further'" severity="secondary" :loading="people.isLoading.value" @click="people.more" />
    </StateView>
  </template>
</template>

<style scoped>
figure { margin: 1rem 0 0.6rem; max-width: 60rem; }
svg { display: block; width: 100%; }
figcaption { display: flex; flex-wrap: wrap; gap: 0.3rem 0.5rem; align-items: center; }
.key { width: 0.9rem; height: 0.9rem; margin-left: 0.8rem; border: 1px solid var(--water); }
.key:first-child { margin-left: 0; }
path.left, .key.left { fill: var(--water-soft); background: var(--water-soft); }
path.both, .key.both { fill: var(--water); background: var(--water); }
path.right, .key.right { fill: var(--line); background: var(--line); }
path { stroke: var(--water); stroke-width: 1; }
select { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--line-strong); padding: 0.25rem 0.4rem; }
.bar { width: 30%; }
.track { display: flex; height: 0.8rem; margin-top: 0.3rem; background: var(--hover); border: 1px solid var(--line); }
.same { background: var(--water); }
.differ { background: var(--signal); min-width: 3px; }
.open { font: inherit; color: var(--water); background: none; border: 0; padding: 0; cursor: pointer; text-decoration: underline; }
</style>
