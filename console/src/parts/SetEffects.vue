<script setup lang="ts">
import { computed, toRef } from 'vue'
import { api, type Schemas } from '../api/client'
import { useResource } from '../use/resource'
import { count, number } from '../use/words'

/** What people gain and lose by a set, thing by thing; and what the accounts own that are lost. */
const props = defineProps<{ set: number }>()
const id = toRef(props, 'set')
const effects = useResource((signal) => api<Schemas['EffectsView']>(`/api/v1/change-sets/${id.value}/effects`, { signal }), [id], false)
const rows = computed(() => effects.data.value?.effects ?? [])
const owned = (one: Schemas['LosingView']): string => (one.owned ? one.owned.map((kind) => `${number(kind.items)} ${kind.kind}`).join(', ') || 'nothing' : 'not known: the application cannot say')
const staying = (one: Schemas['StayingView']): string => (one.items == null ? 'not known: the application did not say' : `${one.more ? 'more than ' : ''}${count(one.items, 'item', 'items')}: ${one.some.join(', ')}${one.items > one.some.length ? ' …' : ''}`)
</script>

<template>
  <table v-if="rows.length" class="effects">
    <thead><tr><th>Application</th><th>What</th><th class="number">Gain it</th><th class="number">Lose it</th></tr></thead>
    <tbody>
      <tr v-for="one in rows" :key="one.application + one.what + one.name">
        <td>{{ one.application }}</td>
        <td>{{ one.what }} <bdi>{{ one.name ?? '' }}</bdi></td>
        <td class="number">{{ one.gain ? number(one.gain) : '' }}</td>
        <td class="number" :class="{ signal: one.loss }">{{ one.loss ? number(one.loss) : '' }}</td>
      </tr>
    </tbody>
  </table>
  <template v-if="effects.data.value?.losing.length">
    <h3>What the accounts own that are lost</h3>
    <p class="soft small">Nothing of it goes by this: each account is suspended, and what it owns is handed over before anything is removed.</p>
    <ul class="plain"><li v-for="one in effects.data.value.losing" :key="one.application + one.person"><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink>, {{ one.application }}: <span :class="{ signal: !one.owned }">{{ owned(one) }}</span></li></ul>
    <p v-if="effects.data.value.losing.length === 10" class="soft small">The first {{ count(10, 'account', 'accounts') }} are shown.</p>
  </template>
  <template v-if="effects.data.value?.staying.length">
    <h3>What was made earlier, and does not follow</h3>
    <p class="soft small">Whoever joins is not in it, whoever leaves still is. It can be made to follow afterwards, on the page of the group.</p>
    <ul class="plain"><li v-for="one in effects.data.value.staying" :key="one.application + one.group"><RouterLink :to="{ path: '/who/groups', query: { group: one.group } }"><bdi>{{ one.group }}</bdi></RouterLink>, {{ one.application }}: <span :class="{ signal: one.items == null }">{{ staying(one) }}</span></li></ul>
  </template>
</template>

<style scoped>
.effects { max-width: 46rem; margin-bottom: 0.6rem; }
</style>
