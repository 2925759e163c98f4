<script setup lang="ts">
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import { useResource } from '../use/resource'
import { number } from '../use/words'

/** The organisation's tree, as sources know it, and who belongs where. */
const units = useResource(async (signal) => (await api<Page<Schemas['UnitView']>>('/api/v1/units', { signal })).items)
</script>

<template>
  <PageHead title="Units" place="Who" to="/who"><template #facts>As the sources know the tree; it comes with a file of units (unit, name, parent) beside a list of people</template></PageHead>
  <StateView :data="units.data.value" :trouble="units.trouble.value" :is-loading="units.isLoading.value" :is-empty="!units.data.value?.length" @retry="units.reload">
    <template #empty>Nobody belongs to a unit yet, and no source knows of one.</template>
    <table class="units">
      <thead><tr><th>Unit</th><th class="number">People in it itself</th><th>Where it stands</th></tr></thead>
      <tbody>
        <tr v-for="one in units.data.value ?? []" :key="one.name">
          <td :style="{ paddingInlineStart: `${one.level * 1.4}rem` }"><RouterLink v-if="one.people" :to="{ path: '/who', query: { unit: one.name } }"><bdi>{{ one.name }}</bdi></RouterLink><bdi v-else>{{ one.name }}</bdi></td>
          <td class="number">{{ one.people ? number(one.people) : '' }}</td>
          <td class="soft small">{{ one.parent ? `below ${one.parent}` : one.known ? 'at the top' : 'only named by people: no source says where it stands' }}</td>
        </tr>
      </tbody>
    </table>
  </StateView>
</template>

<style scoped>
.units { max-width: 48rem; }
</style>
