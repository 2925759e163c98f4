<script setup lang="ts">
import Button from 'primevue/button'
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { useResource } from '../use/resource'

const session = useSession()
const rules = useResource(async (signal) => (await api<Page<Schemas['RuleView']>>('/api/v1/rules', { signal })).items)
</script>

<template>
  <PageHead title="Rules" place="Why" to="/why">
    <template #facts>Who gets an account where, and how it is filled; what no rule gives, a grant may</template>
    <Button v-if="session.may('edit-settings')" as="router-link" to="/why/rules/new" label="Write a rule" />
  </PageHead>
  <StateView :data="rules.data.value" :trouble="rules.trouble.value" :is-loading="rules.isLoading.value" :is-empty="!rules.data.value?.length" @retry="rules.reload">
    <template #empty>There is no rule yet: nobody gets an account anywhere by itself.</template>
    <table>
      <thead><tr><th>Rule</th><th>Application</th><th>Who is meant</th><th>Groups and seat</th><th>Edited</th></tr></thead>
      <tbody>
        <tr v-for="one in rules.data.value ?? []" :key="one.name">
          <td><RouterLink :to="`/why/rules/${encodeURIComponent(one.name)}`">{{ one.name }}</RouterLink></td>
          <td><RouterLink :to="`/where/${encodeURIComponent(one.application)}`">{{ one.application }}</RouterLink></td>
          <td>{{ one.sentence }}</td>
          <td>{{ [...one.groups, ...one.seats.map((choice) => `seat ${choice.seat}`)].join(', ') }}</td>
          <td><RouterLink v-if="one.waitsIn" class="signal" :to="`/now/change-sets/${one.waitsIn}`">waits for its release</RouterLink></td>
        </tr>
      </tbody>
    </table>
  </StateView>
</template>
