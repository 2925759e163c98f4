<script setup lang="ts">
import { watchEffect } from 'vue'

const props = defineProps<{ title: string; place?: string; to?: string }>()
watchEffect(() => {
  document.title = props.title ? `${props.title} · Ebb` : 'Ebb'
})
</script>

<template>
  <div class="head">
    <div>
      <RouterLink v-if="place && to" class="small back" :to="to">{{ place }}</RouterLink>
      <h1 tabindex="-1"><bdi>{{ title }}</bdi></h1>
      <div class="facts soft"><slot name="facts" /></div>
    </div>
    <div class="acts"><slot /></div>
  </div>
</template>

<style scoped>
.head { display: flex; flex-wrap: wrap; justify-content: space-between; gap: 0.8rem 2rem; align-items: flex-start; margin-bottom: 1rem; }
.head > div:first-child { min-width: 0; max-width: 100%; }
.back { display: inline-block; margin-bottom: 0.15rem; }
.facts { display: flex; flex-wrap: wrap; gap: 0.1rem 1.2rem; margin-top: 0.2rem; overflow-wrap: anywhere; }
.facts > :deep(*) { min-width: 0; }
.acts { min-width: 0; max-width: 100%; overflow-wrap: anywhere; }
</style>
