<script setup lang="ts">
import { useRouter } from 'vue-router'
import FeedForm from '../parts/FeedForm.vue'
import PageHead from '../parts/PageHead.vue'

const router = useRouter()
</script>

<template>
  <PageHead title="A new feed" place="Where" to="/where"><template #facts>A source that brings people by itself. It stays a draft until you switch it on.</template></PageHead>
  <FeedForm @kept="(source) => router.push(`/where/feeds/${encodeURIComponent(source)}`)" @left="router.push('/where')" />
</template>
