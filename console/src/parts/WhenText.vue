<script setup lang="ts">
import { computed } from 'vue'
import { useClock } from '../clock'
import { exact, relative } from '../use/words'

/** An instant as people say it; exactly, and in which zone, on hover. */
const props = defineProps<{ at: string | null | undefined; full?: boolean }>()
const clock = useClock()
const text = computed(() => (props.at ? (props.full ? exact(props.at) : relative(props.at, clock.now)) : ''))
</script>

<template>
  <time v-if="at" :datetime="at" :title="exact(at)">{{ text }}</time>
</template>
