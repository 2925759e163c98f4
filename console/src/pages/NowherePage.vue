<script setup lang="ts">
import PageHead from '../parts/PageHead.vue'
</script>

<template>
  <PageHead title="There is nothing at this address" />
  <p>It may have been mistyped. Press <kbd>/</kbd> to find somebody or something, or go to <RouterLink to="/now">Now</RouterLink>.</p>
</template>
