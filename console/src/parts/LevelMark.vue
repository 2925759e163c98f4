<script setup lang="ts">
import { computed, useId } from 'vue'

/** The state of an account: a small vessel, filled as far as the account is in use. */
const props = defineProps<{
  level: string
  /** A change is on its way. */
  moving?: boolean
  /** It is not what it should be. */
  differs?: boolean
  /** The word stands elsewhere, or there is no room for it. */
  wordless?: boolean
}>()

const FILLED: Record<string, number> = { prepared: 0, active: 1, suspended: 0.5, deleted: 0.2, gone: 0 }
const id = useId()
const top = computed(() => 13 - 10 * (FILLED[props.level] ?? 0))
const words = computed(
  () => props.level + (props.moving ? ', a change is on its way' : props.differs ? ', differs' : '')
)
</script>

<template>
  <span class="level" :title="words">
    <svg viewBox="0 0 20 18" width="18" height="16" :aria-hidden="!wordless" :role="wordless ? 'img' : undefined" :aria-label="wordless ? words : undefined">
      <clipPath :id="id"><path d="M4 3h12l-2 10H6z" /></clipPath>
      <rect class="water" x="0" :y="top" width="20" height="18" :clip-path="`url(#${id})`" />
      <path class="vessel" :class="{ waiting: level === 'prepared', dry: level === 'gone' }" d="M4 3h12l-2 10H6z" />
      <circle v-if="moving" class="ring" cx="10" cy="8.500" r="8" />
      <path v-else-if="differs" class="notch" d="M15 1l4 0l0 4z" />
    </svg>
    <span v-if="!wordless">{{ level }}<span v-if="differs" class="soft"> · differs</span></span>
  </span>
</template>

<style scoped>
.level { display: inline-flex; gap: 0.35rem; align-items: center; white-space: nowrap; }
.water { fill: var(--water); }
.vessel { fill: none; stroke: var(--water); stroke-width: 1.5; }
.waiting { stroke-dasharray: 2 1.6; }
.dry { stroke: var(--ink-soft); }
.ring { fill: none; stroke: var(--water); stroke-width: 1; stroke-dasharray: 3 3; transform-origin: 10px 8.5px; animation: turn 3s linear infinite; }
.notch { fill: var(--signal); }
@keyframes turn { to { transform: rotate(360deg); } }
</style>
