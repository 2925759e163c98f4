<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import { usePages } from '../use/pages'
import { number } from '../use/words'

/** Groups across applications, and who is in one of them and why. */
const route = useRoute()
const always = ref(0)
const name = computed(() => (route.query.group as string | undefined) ?? '')
const groups = usePages<Schemas['NamedGroupView']>((cursor, signal) => api<Page<Schemas['NamedGroupView']>>(`/api/v1/groups${query({ cursor })}`, { signal }), [always])
const holders = usePages<Schemas['HolderView']>(
  (cursor, signal) => (name.value ? api<Page<Schemas['HolderView']>>(`/api/v1/groups/holders${query({ group: name.value, cursor })}`, { signal }) : Promise.resolve({ items: [], next: null, total: null, moreThan: null })),
  [name]
)
</script>

<template>
  <PageHead title="Groups" place="Who" to="/who"><template #facts>Across all applications: those of one name are one</template></PageHead>
  <StateView :data="groups.items.value" :trouble="groups.trouble.value" :is-loading="groups.isLoading.value" :is-empty="!groups.items.value?.length" @retry="groups.reload">
    <template #empty>Nobody was seen in a group. Groups come with a sync of an application that has some.</template>
    <table class="groups">
      <thead><tr><th>Group</th><th>In</th><th class="number">Accounts</th><th class="number">Put there by Ebb</th><th>Given by</th></tr></thead>
      <tbody>
        <tr v-for="one in groups.items.value ?? []" :key="one.name" :class="{ here: one.name === name }">
          <td><RouterLink :to="{ query: { group: one.name } }" replace><bdi>{{ one.name }}</bdi></RouterLink></td>
          <td>{{ one.applications.join(', ') }}</td>
          <td class="number">{{ number(one.accounts) }}</td>
          <td class="number">{{ number(one.given) }}</td>
          <td>{{ one.rules.join(', ') || (one.given ? 'grants' : 'nobody here: found there') }}</td>
        </tr>
      </tbody>
    </table>
    <Button v-if="groups.hasMore.value" label="Show more groups" severity="secondary" @click="groups.more" />
  </StateView>
  <template v-if="name">
    <h2>Who is in <bdi>{{ name }}</bdi></h2>
    <StateView :data="holders.items.value" :trouble="holders.trouble.value" :is-loading="holders.isLoading.value" :is-empty="!holders.items.value?.length" @retry="holders.reload">
      <template #empty>Nobody is in it.</template>
      <table>
        <thead><tr><th>Person</th><th>Unit</th><th>In</th><th>Account</th><th>Because of</th></tr></thead>
        <tbody>
          <tr v-for="one in holders.items.value ?? []" :key="`${one.application} ${one.person}`">
            <td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td>
            <td>{{ one.department ?? '' }}</td>
            <td>{{ one.application }}</td>
            <td><LevelMark :level="one.level" /> <span class="soft small"><bdi>{{ one.account }}</bdi></span></td>
            <td>{{ one.ground ?? 'found there' }}</td>
          </tr>
        </tbody>
      </table>
      <Button v-if="holders.hasMore.value" label="Show more people" severity="secondary" @click="holders.more" />
    </StateView>
  </template>
</template>

<style scoped>
.groups { max-width: 58rem; }
.here td { background: var(--water-faint); }
</style>
