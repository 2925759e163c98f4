<script setup lang="ts">
import Message from 'primevue/message'
import type { ProblemView } from '../api/client'

defineProps<{ problems: ProblemView[] }>()
</script>

<template>
  <Message v-if="problems.length" severity="warn" role="alert" class="note">
    <div v-for="(problem, i) in problems" :key="i" class="problem">
      <strong>{{ problem.what }}</strong>
      <p>{{ problem.why }}</p>
      <p>{{ problem.remedy }}</p>
      <p v-if="problem.where" class="small">{{ problem.where }}</p>
    </div>
  </Message>
</template>

<style scoped>
.note { --p-message-warn-background: var(--signal-soft); --p-message-warn-border-color: var(--signal); --p-message-warn-color: var(--ink); margin: 0.8rem 0; max-width: 60rem; }
.problem + .problem { margin-top: 0.8rem; }
.problem p { margin: 0.15rem 0 0; }
</style>
