<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../api/client'
import { placeOf } from '../places'
import { along } from '../use/tide'
import { exact } from '../use/words'

/**
 * One person over time: a lane for each application, the level drawn as height. What happened is
 * left of now, what will happen right of it. Each side is to a scale of its own, and what is long
 * past stands closer together: the weeks around now are seen beside years.
 */
const props = defineProps<{ time: Schemas['TimelineView'] }>()
const router = useRouter()

const NAME = 116
const LANE = 58
const TOP = 34
const HIGH = 38
const HEIGHTS: Record<string, number> = { prepared: 0.12, active: 1, suspended: 0.5, deleted: 0.2, gone: 0 }

const box = ref<HTMLElement | null>(null)
const width = ref(900)
let observer: ResizeObserver | null = null
onMounted(() => {
  observer = new ResizeObserver(([entry]) => entry && (width.value = Math.max(420, entry.contentRect.width)))
  if (box.value) observer.observe(box.value)
})
onBeforeUnmount(() => observer?.disconnect())

const nowX = computed(() => NAME + (width.value - NAME) * 0.46)
const height = computed(() => TOP + Math.max(1, props.time.lanes.length) * LANE + 26)

const at = (instant: string): number => new Date(instant).getTime()
const x = (instant: string): number => along(props.time, instant, { left: NAME, now: nowX.value, right: width.value - 8 })
const floor = (lane: number): number => TOP + lane * LANE + HIGH + 8

interface Mark {
  moments: Schemas['MomentView'][]
  x: number
  lane: number
  kind: string
  open: boolean | null
}
/** Marks that would lie on one another are one. */
const marks = computed<Mark[]>(() => {
  const all: Mark[] = []
  for (const moment of props.time.moments) {
    const lane = props.time.lanes.findIndex((one) => one.application === moment.application)
    const place = x(moment.at)
    const near = all.find((one) => one.lane === lane && one.kind === moment.kind && Math.abs(one.x - place) < 9)
    if (near) near.moments.push(moment)
    else all.push({ moments: [moment], x: place, lane, kind: moment.kind, open: moment.open })
  }
  return all
})

const shown = ref<Mark | null>(null)
const spans = computed(() =>
  props.time.lanes.flatMap((lane, i) =>
    lane.spans.flatMap((span) => {
      const left = x(span.from)
      const right = x(span.to)
      // A level that holds over now is drawn twice: what was, and what is expected.
      const parts: [number, number, boolean][] =
        left < nowX.value && right > nowX.value
          ? [[left, nowX.value, false], [nowX.value, right, true]]
          : [[left, right, left >= nowX.value]]
      return parts.map(([l, r, ahead]) => ({
        key: `${i}-${span.from}-${ahead}`, level: span.level, ahead,
        x: l, width: Math.max(1.5, r - l), height: Math.max(1.5, HIGH * (HEIGHTS[span.level] ?? 0)), floor: floor(i)
      }))
    })
  )
)
const dates = computed(() => {
  const near = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeZone: props.time.zone })
  return { from: near.format(at(props.time.from)), now: near.format(at(props.time.now)), until: near.format(at(props.time.until)) }
})

function words(mark: Mark): string {
  return mark.moments
    .slice(0, 6)
    .map((one) => `${exact(one.at)}: ${one.words}`)
    .concat(mark.moments.length > 6 ? [`and ${mark.moments.length - 6} more`] : [])
    .join('\n')
}
function target(mark: Mark): string | null {
  const last = mark.moments.at(-1)
  if (last?.departure) return placeOf('departure', last.departure)
  return last?.changeSet ? placeOf('change-set', last.changeSet) : null
}
function go(mark: Mark): void {
  const to = target(mark)
  if (to) void router.push(to)
}
</script>

<template>
  <div ref="box" class="tide">
    <svg :width="width" :height="height" role="group" aria-label="Tide line: what happened and what will happen">
      <text class="date" :x="NAME" y="12">{{ dates.from }}</text>
      <text class="date now" :x="nowX" y="12" text-anchor="middle">now, {{ dates.now }}</text>
      <text class="date" :x="width - 8" y="12" text-anchor="end">{{ dates.until }}</text>
      <g v-for="(lane, i) in time.lanes" :key="lane.application">
        <text class="lane" x="0" :y="floor(i) - 4">{{ lane.application }}</text>
        <line class="floor" :x1="NAME" :x2="width - 8" :y1="floor(i)" :y2="floor(i)" />
      </g>
      <rect v-for="span in spans" :key="span.key" :class="['span', span.level, { ahead: span.ahead }]" :x="span.x" :y="span.floor - span.height" :width="span.width" :height="span.height">
        <title>{{ span.level }}</title>
      </rect>
      <line class="noon" :x1="nowX" :x2="nowX" y1="18" :y2="height - 14" />
      <g
        v-for="(mark, i) in marks" :key="i" class="mark" :class="[mark.kind, { shut: mark.open === false }]" tabindex="0"
        :role="target(mark) ? 'link' : 'img'" :aria-label="words(mark)" @mouseenter="shown = mark" @mouseleave="shown = null" @focus="shown = mark" @blur="shown = null"
        @click="go(mark)" @keydown.enter="go(mark)"
      >
        <template v-if="mark.kind === 'gate'">
          <rect class="door" :x="mark.x - 5" :y="floor(mark.lane) - HIGH" width="10" :height="HIGH" />
          <line class="bar" :x1="mark.x" :x2="mark.x" :y1="floor(mark.lane) - HIGH" :y2="floor(mark.lane)" />
          <circle class="knob" :cx="mark.x + 2.500" :cy="floor(mark.lane) - HIGH / 2" r="1.3" />
        </template>
        <path v-else-if="mark.lane < 0" class="tick" :d="`M${mark.x} 18v${height - 34}`" />
        <circle v-else class="dot" :cx="mark.x" :cy="floor(mark.lane)" r="4.500" />
        <rect class="reach" :x="mark.x - 8" :y="mark.lane < 0 ? height - 22 : floor(mark.lane) - HIGH" width="16" :height="mark.lane < 0 ? 20 : HIGH + 8" />
        <path v-if="mark.lane < 0" class="flag" :d="`M${mark.x - 5} ${height - 6}l5 -9l5 9z`" />
      </g>
    </svg>
    <p class="said small" role="status">{{ shown ? words(shown) : time.moments.length ? 'Point at a mark, or reach it with Tab, to read it. Doors are gates.' : 'Nothing has happened yet, and nothing is planned.' }}</p>
  </div>
</template>

<style scoped>
.tide { min-width: 0; }
svg { display: block; max-width: 100%; }
text { font-size: 12.5px; fill: var(--ink-soft); }
.lane { fill: var(--ink); font-weight: 600; }
.now { fill: var(--ink); font-weight: 600; }
.floor { stroke: var(--line-strong); }
.noon { stroke: var(--ink); stroke-width: 1.5; }
.span { fill: var(--water); opacity: 0.85; }
.span.prepared { fill: none; stroke: var(--water); stroke-dasharray: 3 2; }
.span.suspended { opacity: 0.55; }
.span.gone { fill: var(--ink-soft); opacity: 0.4; }
.span.ahead { opacity: 0.3; }
.mark { cursor: pointer; }
.mark[role='img'] { cursor: default; }
.reach { fill: transparent; }
.dot { fill: var(--sheet); stroke: var(--water); stroke-width: 2; }
.tick { stroke: var(--ink-soft); stroke-dasharray: 1 4; }
.flag { fill: var(--ink-soft); }
.door { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.5; }
.bar { stroke: var(--ink); }
.knob { fill: var(--ink); }
.shut .door { fill: var(--hover); }
.mark:focus-visible { outline: none; }
.mark:focus-visible .reach { stroke: var(--water); stroke-width: 2; }
.said { white-space: pre-line; min-height: 2.9em; color: var(--ink-soft); }
</style>
