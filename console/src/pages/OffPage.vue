<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import RemoveAccounts from '../parts/RemoveAccounts.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { usePages } from '../use/pages'
import { count, day, number } from '../use/words'

/** Accounts that are off, with what they cost meanwhile and what is against their removal. */
const props = defineProps<{ name: string }>()
const name = toRef(props, 'name')
const session = useSession()
const path = computed(() => `/api/v1/applications/${encodeURIComponent(name.value)}/off`)
const list = usePages<Schemas['OffView']>((cursor, signal) => api<Page<Schemas['OffView']>>(`${path.value}${query({ cursor, limit: 100 })}`, { signal }), [path])
const chosen = ref(new Set<number>())
const removing = ref(false)
const result = ref<Schemas['RemovalView'] | null>(null)
const free = computed(() => (list.items.value ?? []).filter((one) => !one.against))
function choose(accounts: number[], on: boolean): void {
  const next = new Set(chosen.value)
  accounts.forEach((account) => (on ? next.add(account) : next.delete(account)))
  chosen.value = next
}
function begun(what: Schemas['RemovalView']): void {
  result.value = what
  chosen.value = new Set()
  list.reload()
}
</script>

<template>
  <PageHead title="Accounts that are off" :place="name" :to="`/where/${encodeURIComponent(name)}`">
    <template #facts><span v-if="list.items.value?.length">{{ free.length ? `${number(free.length)} of those shown may be removed` : 'None of those shown may be removed yet' }}</span></template>
  </PageHead>
  <div v-if="result" role="status" class="told">
    <p><strong>The removal of {{ count(result.begun.length, 'account', 'accounts') }} has begun.</strong> <RouterLink to="/ahead/departures">Follow them among the departures</RouterLink>{{ result.left ? `; ${number(result.left)} more of those chosen may begin once you have looked.` : '.' }}</p>
    <ul v-if="result.refused.length"><li v-for="one in result.refused" :key="one.account"><bdi>{{ one.name }}</bdi>: {{ one.against }}</li></ul>
  </div>
  <div v-if="chosen.size" class="acts chosen"><strong>{{ count(chosen.size, 'account', 'accounts') }} chosen</strong><Button severity="warn" :label="`Remove ${count(chosen.size, 'account', 'accounts')} …`" @click="removing = true" /><Button severity="secondary" label="Choose none" @click="chosen = new Set()" /></div>
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length" @retry="list.reload">
    <template #empty>No account is suspended in {{ name }}.</template>
    <table>
      <thead><tr><th v-if="session.may('departures')"><input v-if="free.length" type="checkbox" aria-label="Choose all that may be removed" :checked="free.length > 0 && free.every((one) => chosen.has(one.account))" @change="choose(free.map((one) => one.account), ($event.target as HTMLInputElement).checked)" /></th><th>Account</th><th>Whose</th><th>Unit</th><th>Off since</th><th class="number">Days</th><th>By</th><th>Seats taken</th><th>Removal</th></tr></thead>
      <tbody>
        <tr v-for="one in list.items.value ?? []" :key="one.account">
          <td v-if="session.may('departures')"><input v-if="!one.against" type="checkbox" :checked="chosen.has(one.account)" :aria-label="`Choose ${one.name}`" @change="choose([one.account], ($event.target as HTMLInputElement).checked)" /></td>
          <td class="whole"><bdi>{{ one.name }}</bdi></td>
          <td><RouterLink v-if="one.person" :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink><span v-else class="signal">nobody known</span></td>
          <td>{{ one.department ?? '' }}</td>
          <td>{{ one.since ? day(one.since) : 'not known' }}</td>
          <td class="number">{{ one.days === null ? '' : number(one.days) }}</td>
          <td class="soft">{{ one.why ?? '' }}</td>
          <td>{{ one.seats.join(', ') }}</td>
          <td><RouterLink v-if="one.departure" :to="`/ahead/departures/${one.departure}`">{{ one.against }}</RouterLink><span v-else-if="one.against" class="soft">{{ one.against }}</span><template v-else>may begin</template></td>
        </tr>
      </tbody>
    </table>
    <Button v-if="list.hasMore.value" label="Show more" severity="secondary" @click="list.more" />
  </StateView>
  <RemoveAccounts v-if="removing" :name="name" :accounts="[...chosen]" @close="removing = false" @begun="begun" />
</template>

<style scoped>
.acts { align-items: center; margin-bottom: 0.6rem; }
.chosen { padding: 0.5rem 0.8rem; background: var(--water-soft); }
.whole { white-space: nowrap; }
.told { margin-bottom: 0.8rem; }
</style>
