<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { api, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { placeOf } from '../places'
import { useSession } from '../session'
import { useResource } from '../use/resource'
import { capital, count, sentence } from '../use/words'

const session = useSession()
const { data, trouble, isLoading, reload } = useResource((signal) => api<Schemas['NowView']>('/api/v1/now', { signal }))
const GROUPS = [
  { urgency: 1, title: 'Stopped or broken' },
  { urgency: 2, title: 'Waits for somebody' },
  { urgency: 3, title: 'Under way' }
]
const groups = computed(() =>
  GROUPS.map((group) => ({ ...group, errands: data.value?.errands.filter((one) => one.urgency === group.urgency) ?? [] })).filter((group) => group.errands.length)
)
const needing = computed(() => data.value?.errands.filter((one) => one.urgency < 3).length ?? 0)
</script>

<template>
  <PageHead title="Now">
    <template #facts>
      <span v-if="data">{{ needing ? (needing === 1 ? 'One thing needs somebody' : `${needing} things need somebody`) : 'Nothing needs anybody' }}</span>
      <span v-if="data?.changesUnderWay">{{ count(data.changesUnderWay, 'change', 'changes') }} under way</span>
      <span v-if="data?.noticesWaiting">{{ count(data.noticesWaiting, 'notice', 'notices') }} to be sent</span>
    </template>
    <Button v-if="session.may('import')" as="router-link" to="/now/imports/new" label="Bring in a file" />
  </PageHead>
  <StateView :data="data" :trouble="trouble" :is-loading="isLoading" :is-empty="!data?.errands.length" @retry="reload">
    <template #empty>
      <p>All is calm: nothing is under way, and nothing waits.</p>
      <p>What comes next is in <RouterLink to="/ahead">Ahead</RouterLink>; what was done in <RouterLink to="/behind">Behind</RouterLink>.</p>
    </template>
    <template #default>
      <section v-for="group in groups" :key="group.urgency" :class="{ first: group.urgency === 1 }">
        <h2>{{ group.title }}</h2>
        <ul class="plain">
          <li v-for="one in group.errands" :key="one.kind + one.key">
            <span class="what"><RouterLink :to="placeOf(one.kind, one.key)"><bdi>{{ sentence(capital(one.what)) }}</bdi></RouterLink></span>
            <span class="soft">{{ sentence(one.detail ?? '') }}</span>
            <span class="soft small"><WhenText :at="one.since" /></span>
            <RouterLink class="do" :to="placeOf(one.kind, one.key)" :aria-label="`${one.action}: ${one.what}`">{{ one.action }}</RouterLink>
          </li>
        </ul>
      </section>
    </template>
  </StateView>
</template>

<style scoped>
li { display: grid; grid-template-columns: minmax(14rem, 2fr) minmax(14rem, 3fr) 8rem 10rem; gap: 0.2rem 1.2rem; padding: 0.6rem 0 0.6rem 0.8rem; border-bottom: 1px solid var(--line); border-left: 3px solid var(--water); margin-bottom: 2px; }
.first li { border-left-color: var(--signal); }
.first h2 { color: var(--signal); }
.what { font-weight: 600; overflow-wrap: anywhere; }
.do { justify-self: end; font-weight: 600; }
@media (max-width: 900px) { li { grid-template-columns: 1fr; } .do { justify-self: start; } }
</style>
