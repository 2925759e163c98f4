<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { computed } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import { useResource } from '../use/resource'
import { attribute } from '../use/words'

/** A day from which or until which a rule gives: of the calendar, or counted from one of the person's dates. */
defineProps<{ label: string; none: string; disabled?: boolean }>()
const bound = defineModel<Bound>({ required: true })
const dates = useResource(async (signal) => (await api<Page<Schemas['AttributeView']>>('/api/v1/attributes', { signal })).items.filter((one) => one.type === 'date'), [], false)

const DAY = 'a day'
const kind = computed({
  get: () => (bound.value ? (bound.value.attribute ?? DAY) : ''),
  set: (now) => { bound.value = now === '' ? null : now === DAY ? { attribute: null, day: null, days: 0 } : { attribute: now, day: null, days: 0 } }
})
const days = computed({
  get: () => String(bound.value?.days ?? 0),
  set: (now) => { if (bound.value) bound.value = { ...bound.value, days: Number(now) || 0 } }
})
const day = computed({
  get: () => bound.value?.day ?? '',
  set: (now) => { if (bound.value) bound.value = { ...bound.value, day: now || null } }
})
</script>

<script lang="ts">
export type Bound = { attribute: string | null; day: string | null; days: number } | null
</script>

<template>
  <div class="bound">
    <label>{{ label }}
      <select v-model="kind" :disabled="disabled">
        <option value="">{{ none }}</option>
        <option :value="DAY">a day of the calendar</option>
        <option v-for="one in dates.data.value ?? []" :key="one.name" :value="one.name">{{ attribute(one.name).toLowerCase() }}</option>
      </select>
    </label>
    <label v-if="kind === DAY">Day<InputText v-model="day" type="date" :disabled="disabled" /></label>
    <label v-else-if="kind">Days after it<span class="hint">below 0, before it</span><InputText v-model="days" inputmode="numeric" class="few" :disabled="disabled" /></label>
  </div>
</template>

<style scoped>
.bound { display: flex; flex-wrap: wrap; gap: 0.8rem; align-items: end; }
.few { width: 5rem; }
</style>
