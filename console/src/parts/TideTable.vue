<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { Schemas } from '../api/client'
import { count, day as dayWords } from '../use/words'

/**
 * A span of days as a tide table: what comes into use stands above the water line, what is only
 * prepared in outline, what goes out of use hangs below it.
 */
const props = defineProps<{ forecast: Schemas['ForecastView']; day: string }>()
const emit = defineEmits<{ choose: [day: string] }>()

const TOP = 22
const HIGH = 62
const LOW = 46
const IN = ['open', 'return', 'create']
const OUT = ['suspend', 'close']

const box = ref<HTMLElement | null>(null)
const width = ref(900)
let observer: ResizeObserver | null = null
onMounted(() => {
  observer = new ResizeObserver(([entry]) => entry && (width.value = Math.max(360, entry.contentRect.width)))
  if (box.value) observer.observe(box.value)
})
onBeforeUnmount(() => observer?.disconnect())

const at = (day: string): number => Date.parse(`${day}T00:00:00Z`) / 86_400_000
const all = computed(() => at(props.forecast.until) - at(props.forecast.from) + 1)
const step = computed(() => (width.value - 4) / all.value)
const x = (day: string): number => 2 + (at(day) - at(props.forecast.from)) * step.value
const sum = (day: Schemas['DayView'], kinds: string[]): number => day.counts.filter((one) => kinds.includes(one.kind)).reduce((n, one) => n + one.count, 0)
const most = computed(() => Math.max(1, ...props.forecast.days.map((one) => Math.max(sum(one, IN), sum(one, OUT)))))
const tall = (n: number, room: number): number => (n ? Math.max(3, (Math.sqrt(n) / Math.sqrt(most.value)) * room) : 0)

const bars = computed(() =>
  props.forecast.days.map((one) => {
    const up = sum(one, IN)
    const down = sum(one, OUT)
    return { day: one, x: x(one.day), up: tall(up, HIGH), down: tall(down, LOW), onlyPrepared: up > 0 && sum(one, ['open', 'return']) === 0, other: !up && !down }
  })
)
const months = computed(() => {
  const found: { x: number; words: string }[] = []
  const first = new Date(`${props.forecast.from}T00:00:00Z`)
  for (let month = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 1)); ; month = new Date(Date.UTC(month.getUTCFullYear(), month.getUTCMonth() + 1, 1))) {
    const day = month.toISOString().slice(0, 10)
    if (day > props.forecast.until) return found
    found.push({ x: x(day), words: month.toLocaleDateString('en-GB', { month: 'short', timeZone: 'UTC' }) })
  }
})
const KINDS: Record<string, string> = {
  create: 'made', open: 'opened', return: 'back in use', suspend: 'suspended', close: 'no longer entitled', update: 'updated',
  join: 'join a group', leave: 'leave a group', 'take-seat': 'take a seat', 'free-seat': 'free a seat'
}
function words(one: Schemas['DayView']): string {
  return `${dayWords(one.day)}: ${count(one.people, 'person', 'people')}; ${one.counts.map((each) => `${each.count} ${KINDS[each.kind] ?? each.kind} in ${each.application}`).join(', ')}`
}
const shown = ref<Schemas['DayView'] | null>(null)
</script>

<template>
  <div ref="box" class="tide">
    <svg :width="width" :height="TOP + HIGH + LOW + 18" role="group" :aria-label="`From ${dayWords(forecast.from)} to ${dayWords(forecast.until)}`">
      <text class="edge" x="2" y="12">{{ dayWords(forecast.from) }}, today</text>
      <text class="edge" :x="width - 2" y="12" text-anchor="end">{{ dayWords(forecast.until) }}</text>
      <g v-for="month in months" :key="month.x"><line class="month" :x1="month.x" :x2="month.x" :y1="TOP" :y2="TOP + HIGH + LOW" /><text :x="month.x + 4" :y="TOP + HIGH + LOW + 13">{{ month.words }}</text></g>
      <line class="water" x1="0" :x2="width" :y1="TOP + HIGH" :y2="TOP + HIGH" />
      <g
        v-for="bar in bars" :key="bar.day.day" class="day" :class="{ chosen: bar.day.day === day }" role="button" tabindex="0" :aria-label="words(bar.day)" :aria-pressed="bar.day.day === day"
        @click="emit('choose', bar.day.day)" @keydown.enter="emit('choose', bar.day.day)" @keydown.space.prevent="emit('choose', bar.day.day)"
        @mouseenter="shown = bar.day" @mouseleave="shown = null" @focus="shown = bar.day" @blur="shown = null"
      >
        <rect class="reach" :x="bar.x - 1" :y="TOP" :width="Math.max(9, step)" :height="HIGH + LOW" />
        <rect class="in" :class="{ outline: bar.onlyPrepared }" :x="bar.x" :y="TOP + HIGH - bar.up" :width="Math.max(3, Math.min(14, step - 1.5))" :height="bar.up" />
        <rect class="out" :x="bar.x" :y="TOP + HIGH + 1" :width="Math.max(3, Math.min(14, step - 1.5))" :height="bar.down" />
        <circle v-if="bar.other" class="other" :cx="bar.x + 2" :cy="TOP + HIGH" r="2.5" />
      </g>
    </svg>
    <p class="said small soft" role="status">{{ shown ? words(shown) : 'Above the line: into use, or prepared (outlined). Below it: out of use. Point at a day, or reach it with Tab; choose it to see whom it concerns.' }}</p>
  </div>
</template>

<style scoped>
.tide { min-width: 0; margin-bottom: 0.6rem; }
svg { display: block; max-width: 100%; }
text { font-size: 12.5px; fill: var(--ink-soft); }
.edge { fill: var(--ink); }
.water { stroke: var(--water); stroke-width: 1.5; }
.month { stroke: var(--line-strong); stroke-dasharray: 1 4; }
.day { cursor: pointer; }
.day:focus-visible { outline: none; }
.reach { fill: transparent; }
.day:hover .reach, .day:focus-visible .reach, .chosen .reach { fill: var(--hover); }
.day:focus-visible .reach { stroke: var(--water); stroke-width: 2; }
.in { fill: var(--water); }
.in.outline { fill: none; stroke: var(--water); }
.out { fill: var(--ink-soft); opacity: 0.75; }
.other { fill: var(--sheet); stroke: var(--water); stroke-width: 1.5; }
.said { min-height: 2.6em; margin: 0.2rem 0 0; }
</style>
